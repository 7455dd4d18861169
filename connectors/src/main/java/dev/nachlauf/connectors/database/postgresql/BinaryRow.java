package dev.nachlauf.connectors.database.postgresql;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import org.jspecify.annotations.Nullable;

/** A row in the binary format of COPY; fields are decoded when they are asked for. */
final class BinaryRow {
    private static final int NEGATIVE = 0x4000;
    private static final int LARGEST_SMALL = 4;
    private static final long MICROS_PER_DAY = 86_400_000_000L;

    private final ByteBuffer bytes;
    private final int[] offsets;

    /** A row of {@code fields} fields that starts at {@code start}. */
    BinaryRow(byte[] message, int start, int fields) {
        bytes = ByteBuffer.wrap(message);
        offsets = new int[fields];
        int at = start;
        for (int i = 0; i < fields; i++) {
            offsets[i] = at;
            at += Integer.BYTES + Math.max(0, bytes.getInt(at));
        }
    }

    int int4(int field) {
        return bytes.getInt(offsets[field] + Integer.BYTES);
    }

    /** Whether a text field holds exactly these characters; decodes nothing when the lengths already differ. */
    boolean sameText(int field, String text) {
        int at = offsets[field];
        int length = bytes.getInt(at);
        int chars = text.length();
        if (length < chars) {
            return false;
        }
        int start = at + Integer.BYTES;
        if (length == chars) {
            byte[] array = bytes.array();
            for (int i = 0; i < chars; i++) {
                if (array[start + i] != text.charAt(i)) {
                    return false;
                }
            }
            return true;
        }
        return text.equals(new String(bytes.array(), start, length, StandardCharsets.UTF_8));
    }

    @Nullable
    Object value(int field, Wire wire) {
        int at = offsets[field];
        int length = bytes.getInt(at);
        if (length < 0) {
            return null;
        }
        int start = at + Integer.BYTES;
        return switch (wire) {
            case BOOL -> bytes.get(start) != 0;
            case INT2 -> (long) bytes.getShort(start);
            case INT4 -> (long) bytes.getInt(start);
            case INT8 -> bytes.getLong(start);
            case NUMERIC, FLOAT -> numeric(start);
            case TEXT, OTHER -> new String(bytes.array(), start, length, StandardCharsets.UTF_8);
            case DATE -> LocalDate.ofEpochDay(bytes.getInt(start) + BinaryCopy.EPOCH_DAYS);
            case TIME -> TimeOfDay.of(bytes.getLong(start));
            case TIMESTAMP, TIMESTAMPTZ -> {
                long micros = bytes.getLong(start);
                yield LocalDateTime.of(
                        LocalDate.ofEpochDay(Math.floorDiv(micros, MICROS_PER_DAY) + BinaryCopy.EPOCH_DAYS),
                        LocalTime.ofNanoOfDay(Math.floorMod(micros, MICROS_PER_DAY) * 1000));
            }
        };
    }

    /** Not a number and the infinities have no decimal: they are given as their text, which equals no number. */
    private Object numeric(int start) {
        int count = bytes.getShort(start) & 0xFFFF;
        int weight = bytes.getShort(start + 2);
        int sign = bytes.getShort(start + 4) & 0xFFFF;
        int scale = bytes.getShort(start + 6) & 0xFFFF;
        if (sign > NEGATIVE) {
            return BinaryCopy.SPECIAL.get((sign - BinaryCopy.FIRST_SPECIAL) >> 12);
        }
        int digits = start + 8;
        int exponent = (count - 1 - weight) * BinaryCopy.DIGITS;
        BigDecimal value;
        if (count <= LARGEST_SMALL) {
            long unscaled = 0;
            for (int i = 0; i < count; i++) {
                unscaled = unscaled * BinaryCopy.BASE + bytes.getShort(digits + 2 * i);
            }
            value = BigDecimal.valueOf(sign == NEGATIVE ? -unscaled : unscaled, exponent);
        } else {
            BigInteger unscaled = BigInteger.ZERO;
            for (int i = 0; i < count; i++) {
                unscaled = unscaled.multiply(BigInteger.valueOf(BinaryCopy.BASE))
                        .add(BigInteger.valueOf(bytes.getShort(digits + 2 * i)));
            }
            value = new BigDecimal(sign == NEGATIVE ? unscaled.negate() : unscaled, exponent);
        }
        return value.setScale(scale, java.math.RoundingMode.UNNECESSARY);
    }
}
