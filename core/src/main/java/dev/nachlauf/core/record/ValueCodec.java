package dev.nachlauf.core.record;

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

/** Single values as bytes: a tag, then the value. Values of every kind, null, and lists of them. */
public final class ValueCodec {
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

    private ValueCodec() {}

    /** The bytes of one list of values. */
    public static byte[] encode(List<?> values) {
        ByteSink out = new ByteSink(values.size() * 8 + 16);
        write(out, values);
        return out.toArray();
    }

    /** The list in these bytes. */
    public static List<@Nullable Object> decode(byte[] bytes) {
        Object value = read(ByteBuffer.wrap(bytes));
        if (value instanceof List<?> list) {
            return new ArrayList<>(list);
        }
        throw new IllegalArgumentException("the bytes hold no list of values");
    }

    /** Adds a value. Texts and nulls, most of what there is, are not looked for among all kinds. */
    public static void write(ByteSink out, @Nullable Object value) {
        if (value instanceof String text) {
            out.byte1(TEXT);
            out.text(text);
        } else if (value == null) {
            out.byte1(NULL);
        } else {
            writeOther(out, value);
        }
    }

    private static void writeOther(ByteSink out, Object value) {
        switch (value) {
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

    /** The next value. */
    public static @Nullable Object read(ByteBuffer in) {
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
                requireHeld(in, size);
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
        int length = in.getInt();
        requireHeld(in, length);
        byte[] bytes = new byte[length];
        in.get(bytes);
        return bytes;
    }

    /** A damaged length must not cost memory. */
    private static void requireHeld(ByteBuffer in, int length) {
        if (length < 0 || length > in.remaining()) {
            throw new IllegalArgumentException("a row block is damaged: a value is longer than the block");
        }
    }
}
