package dev.nachlauf.core.record;

import com.github.luben.zstd.Zstd;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Blocks of rows as bytes: a version byte, the sizes, then column after column (equal things side by side compress
 * well), packed with zstd level 1. A row may hold values of every {@link dev.nachlauf.core.value.Kind}, null, and
 * lists of them.
 */
public final class RowCodec {
    /** The first byte of every block; a reader refuses versions it does not know. */
    public static final byte VERSION = 1;

    private static final int LEVEL = 1;
    private static final int LARGEST_BLOCK = 1 << 30;
    private static final int HEADER = 1 + Integer.BYTES;

    private static final byte NULL = 0;
    private static final byte TEXT = 1;
    private static final byte INTEGER = 2;
    private static final byte DECIMAL = 3;
    private static final byte TRUE = 4;
    private static final byte FALSE = 5;
    private static final byte DATE = 6;
    private static final byte TIME = 7;
    private static final byte TIMESTAMP = 8;
    private static final byte LARGE_DECIMAL = 9;
    private static final byte LIST = 10;

    private RowCodec() {}

    /** The block of these rows, all of which have {@code width} values. */
    public static byte[] encode(List<@Nullable Object[]> rows, int width) {
        ByteSink out = new ByteSink(rows.size() * width * 2 + 64);
        out.int4(rows.size());
        out.int4(width);
        for (int column = 0; column < width; column++) {
            for (Object[] row : rows) {
                write(out, row[column]);
            }
        }
        byte[] packed = Zstd.compress(out.toArray(), LEVEL);
        return ByteBuffer.allocate(HEADER + packed.length)
                .put(VERSION)
                .putInt(out.size())
                .put(packed)
                .array();
    }

    /** The rows of a block. */
    public static List<@Nullable Object[]> decode(byte[] block) {
        ByteBuffer head = ByteBuffer.wrap(block);
        byte version = head.get();
        if (version != VERSION) {
            throw new IllegalArgumentException(
                    "a row block of version " + version + " can't be read; known is " + VERSION);
        }
        int size = head.getInt();
        if (size < 0 || size > LARGEST_BLOCK) {
            throw new IllegalArgumentException("a row block states an impossible size: " + size);
        }
        byte[] packed = new byte[head.remaining()];
        head.get(packed);
        ByteBuffer in = ByteBuffer.wrap(Zstd.decompress(packed, size));
        int rows = in.getInt();
        int width = in.getInt();
        List<@Nullable Object[]> out = new ArrayList<>(rows);
        for (int i = 0; i < rows; i++) {
            out.add(new Object[width]);
        }
        for (int column = 0; column < width; column++) {
            for (int i = 0; i < rows; i++) {
                out.get(i)[column] = read(in);
            }
        }
        return out;
    }

    private static void write(ByteSink out, @Nullable Object value) {
        switch (value) {
            case null -> out.byte1(NULL);
            case String text -> {
                out.byte1(TEXT);
                bytes(out, text.getBytes(StandardCharsets.UTF_8));
            }
            case Long number -> {
                out.byte1(INTEGER);
                out.int8(number);
            }
            case BigDecimal number -> decimal(out, number);
            case Boolean truth -> out.byte1(truth ? TRUE : FALSE);
            case LocalDate date -> {
                out.byte1(DATE);
                out.int8(date.toEpochDay());
            }
            case LocalTime time -> {
                out.byte1(TIME);
                out.int8(time.toNanoOfDay());
            }
            case LocalDateTime stamp -> {
                out.byte1(TIMESTAMP);
                out.int8(stamp.toLocalDate().toEpochDay());
                out.int8(stamp.toLocalTime().toNanoOfDay());
            }
            case List<?> list -> {
                out.byte1(LIST);
                out.int4(list.size());
                for (Object member : list) {
                    write(out, member);
                }
            }
            default -> throw new IllegalArgumentException("no value of a row: " + value.getClass());
        }
    }

    private static void decimal(ByteSink out, BigDecimal number) {
        if (number.precision() <= 18) {
            out.byte1(DECIMAL);
            out.int4(number.scale());
            out.int8(number.unscaledValue().longValue());
        } else {
            out.byte1(LARGE_DECIMAL);
            out.int4(number.scale());
            bytes(out, number.unscaledValue().toByteArray());
        }
    }

    private static @Nullable Object read(ByteBuffer in) {
        byte tag = in.get();
        return switch (tag) {
            case NULL -> null;
            case TEXT -> new String(bytes(in), StandardCharsets.UTF_8);
            case INTEGER -> in.getLong();
            case DECIMAL -> {
                int scale = in.getInt();
                yield BigDecimal.valueOf(in.getLong(), scale);
            }
            case TRUE -> true;
            case FALSE -> false;
            case DATE -> LocalDate.ofEpochDay(in.getLong());
            case TIME -> LocalTime.ofNanoOfDay(in.getLong());
            case TIMESTAMP -> {
                LocalDate date = LocalDate.ofEpochDay(in.getLong());
                yield LocalDateTime.of(date, LocalTime.ofNanoOfDay(in.getLong()));
            }
            case LARGE_DECIMAL -> {
                int scale = in.getInt();
                yield new BigDecimal(new BigInteger(bytes(in)), scale);
            }
            case LIST -> {
                int size = in.getInt();
                List<@Nullable Object> list = new ArrayList<>();
                for (int i = 0; i < size; i++) {
                    list.add(read(in));
                }
                yield list;
            }
            default -> throw new IllegalArgumentException("a row block holds an unknown kind of value: " + tag);
        };
    }

    private static void bytes(ByteSink out, byte[] bytes) {
        out.int4(bytes.length);
        out.bytes(bytes);
    }

    private static byte[] bytes(ByteBuffer in) {
        byte[] bytes = new byte[in.getInt()];
        in.get(bytes);
        return bytes;
    }
}
