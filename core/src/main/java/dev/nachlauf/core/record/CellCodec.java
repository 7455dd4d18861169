package dev.nachlauf.core.record;

import dev.nachlauf.core.value.Values;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * How the values of a field are spelled as bytes. A cell is its length in four bytes, -1 for null, and then the value,
 * big-endian. A target names the codec of each of its fields, so that rows can be sent and compared as they are; the
 * ledger names it too, so that its lines can be read without the target.
 */
public enum CellCodec {
    /** Values of every kind, each with a tag; for systems without a spelling of their own. */
    ANY(0),
    /** UTF-8. Other values as their canonical text. */
    TEXT(1),
    /** One byte, 0 or 1. */
    TRUTH(2),
    /** An integer in two bytes. */
    INT2(3),
    /** An integer in four bytes. */
    INT4(4),
    /** An integer in eight bytes. */
    INT8(5),
    /** An exact number, see {@link DecimalBytes}. */
    DECIMAL(6),
    /** Days since 2000-01-01 in four bytes. */
    DATE(7),
    /** Microseconds since midnight in eight bytes. */
    TIME(8),
    /** Microseconds since 2000-01-01 in eight bytes. */
    TIMESTAMP(9);

    private static final long EPOCH_DAYS = 10_957;
    private static final long MICROS_PER_DAY = 86_400_000_000L;
    private static final int NANOS_PER_MICRO = 1_000;
    /** The length of null. */
    public static final int NULL = -1;

    private final byte tag;

    CellCodec(int tag) {
        this.tag = (byte) tag;
    }

    /** What stands for the codec in the ledger; never another one's. */
    public byte tag() {
        return tag;
    }

    /** The codec with this tag. */
    public static CellCodec of(byte tag) {
        return Arrays.stream(values())
                .filter(codec -> codec.tag == tag)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("a block names an unknown codec: " + tag));
    }

    /**
     * Adds a cell.
     *
     * @throws ClassCastException where the value is of another kind than the codec's
     */
    public void write(@Nullable Object value, ByteSink out) {
        if (value == null) {
            out.int4(NULL);
            return;
        }
        switch (this) {
            case ANY -> any(value, out);
            case TEXT -> text(value, out);
            case TRUTH -> {
                out.int4(1);
                out.byte1((byte) ((Boolean) value ? 1 : 0));
            }
            case INT2 -> {
                out.int4(Short.BYTES);
                out.int2(((Long) value).intValue());
            }
            case INT4 -> {
                out.int4(Integer.BYTES);
                out.int4(((Long) value).intValue());
            }
            case INT8 -> {
                out.int4(Long.BYTES);
                out.int8((Long) value);
            }
            case DECIMAL -> DecimalBytes.write(value, out);
            case DATE -> {
                out.int4(Integer.BYTES);
                out.int4((int) (((LocalDate) value).toEpochDay() - EPOCH_DAYS));
            }
            case TIME -> {
                out.int4(Long.BYTES);
                out.int8(micros((LocalTime) value));
            }
            case TIMESTAMP -> {
                LocalDateTime stamp = (LocalDateTime) value;
                out.int4(Long.BYTES);
                out.int8((stamp.toLocalDate().toEpochDay() - EPOCH_DAYS) * MICROS_PER_DAY
                        + stamp.toLocalTime().toNanoOfDay() / NANOS_PER_MICRO);
            }
        }
    }

    private static void text(Object value, ByteSink out) {
        if (value instanceof TextCell cell) {
            cell.write(out);
        } else {
            out.text(value instanceof String text ? text : String.valueOf(Values.text(value)));
        }
    }

    private static void any(Object value, ByteSink out) {
        int at = out.size();
        out.int4(NULL);
        ValueCodec.write(out, value instanceof TextCell cell ? cell.toString() : value);
        out.int4At(at, out.size() - at - Integer.BYTES);
    }

    /** The value of the cell that begins here. */
    public @Nullable Object read(byte[] data, int at) {
        int length = length(data, at);
        if (length < 0) {
            return null;
        }
        int start = at + Integer.BYTES;
        return switch (this) {
            case ANY -> ValueCodec.read(ByteBuffer.wrap(data, start, length));
            case TEXT -> new String(data, start, length, StandardCharsets.UTF_8);
            case TRUTH -> data[start] != 0;
            case INT2 -> (long) (short) (data[start] << Byte.SIZE | data[start + 1] & 0xFF);
            case INT4 -> (long) length(data, start);
            case INT8 -> int8(data, start);
            case DECIMAL -> DecimalBytes.read(data, start);
            case DATE -> LocalDate.ofEpochDay(length(data, start) + EPOCH_DAYS);
            case TIME -> time(int8(data, start));
            case TIMESTAMP -> {
                long micros = int8(data, start);
                yield LocalDateTime.of(
                        LocalDate.ofEpochDay(Math.floorDiv(micros, MICROS_PER_DAY) + EPOCH_DAYS),
                        LocalTime.ofNanoOfDay(Math.floorMod(micros, MICROS_PER_DAY) * NANOS_PER_MICRO));
            }
        };
    }

    /** A day of some systems ends with 24:00, ours a moment before. */
    private static LocalTime time(long micros) {
        return micros == MICROS_PER_DAY ? LocalTime.MAX : LocalTime.ofNanoOfDay(micros * NANOS_PER_MICRO);
    }

    private static long micros(LocalTime time) {
        return time.equals(LocalTime.MAX) ? MICROS_PER_DAY : time.toNanoOfDay() / NANOS_PER_MICRO;
    }

    /** Whether two cells hold the same value: text to the last character, numbers whatever decimals they show. */
    public boolean same(byte[] one, int at, byte[] other, int otherAt) {
        if (Arrays.equals(one, at, end(one, at), other, otherAt, end(other, otherAt))) {
            return true;
        }
        return (this == DECIMAL || this == ANY) && Values.same(read(one, at), read(other, otherAt));
    }

    /** Whether the cell that begins here is null or an empty text. */
    public boolean isBlank(byte[] data, int at) {
        int length = length(data, at);
        return length < 0 || this == TEXT && length == 0 || this == ANY && "".equals(read(data, at));
    }

    /** The length of the cell that begins here; {@link #NULL} for null. */
    public static int length(byte[] data, int at) {
        return data[at] << 24 | (data[at + 1] & 0xFF) << 16 | (data[at + 2] & 0xFF) << 8 | data[at + 3] & 0xFF;
    }

    /** Where the cell that begins here ends, and the next one begins. */
    public static int end(byte[] data, int at) {
        return at + Integer.BYTES + Math.max(0, length(data, at));
    }

    private static long int8(byte[] data, int at) {
        return (long) length(data, at) << Integer.SIZE | length(data, at + Integer.BYTES) & 0xFFFF_FFFFL;
    }
}
