package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Writes rows in the binary format of COPY: per field its length in bytes and its value, big-endian. The buffer is
 * grown by hand, because this is the inner loop of every load.
 */
final class BinaryCopy {
    /** Days between the epochs of Java and of PostgreSQL (2000-01-01). */
    static final long EPOCH_DAYS = 10_957;

    static final int BASE = 10_000;
    static final int DIGITS = 4;
    private static final byte[] SIGNATURE = {
        'P', 'G', 'C', 'O', 'P', 'Y', '\n', (byte) 0xFF, '\r', '\n', 0, 0, 0, 0, 0, 0, 0, 0, 0
    };
    /** Bytes before the first row. */
    static final int HEADER = SIGNATURE.length;

    private static final BigInteger BIG_BASE = BigInteger.valueOf(BASE);
    private static final int NEGATIVE = 0x4000;
    /** What numeric can hold beside numbers, in the order of their signs 0xC000, 0xD000 and 0xF000. */
    static final List<String> SPECIAL = List.of("NaN", "Infinity", "", "-Infinity");

    static final int FIRST_SPECIAL = 0xC000;

    private byte[] buffer = new byte[1 << 16];
    private int size;

    BinaryCopy() {
        bytes(SIGNATURE);
    }

    /** Starts a row. */
    void row(int fields) {
        int2(fields);
    }

    /** Ends the rows. */
    void end() {
        int2(-1);
    }

    byte[] array() {
        return buffer;
    }

    int size() {
        return size;
    }

    /** One field. */
    void field(Wire wire, @Nullable Object value) {
        if (value == null) {
            int4(-1);
            return;
        }
        switch (wire) {
            case BOOL -> {
                int4(1);
                room(1);
                buffer[size++] = (byte) ((Boolean) value ? 1 : 0);
            }
            case INT2 -> {
                int4(2);
                int2(((Long) value).intValue());
            }
            case INT4 -> {
                int4(4);
                int4(((Long) value).intValue());
            }
            case INT8 -> {
                int4(8);
                int8((Long) value);
            }
            case NUMERIC, FLOAT -> {
                if (value instanceof String special) {
                    special(special);
                } else {
                    numeric(Values.decimal(value));
                }
            }
            case TEXT, OTHER -> text(value instanceof String text ? text : String.valueOf(Values.text(value)));
            case DATE -> {
                int4(4);
                int4((int) (((LocalDate) value).toEpochDay() - EPOCH_DAYS));
            }
            case TIME -> {
                int4(8);
                int8(TimeOfDay.micros((LocalTime) value));
            }
            case TIMESTAMP, TIMESTAMPTZ -> {
                LocalDateTime stamp = (LocalDateTime) value;
                int4(8);
                int8((stamp.toLocalDate().toEpochDay() - EPOCH_DAYS) * 86_400_000_000L
                        + stamp.toLocalTime().toNanoOfDay() / 1000);
            }
        }
    }

    /** A field of four bytes that is no value of a row: row numbers, versions. */
    void raw4(int value) {
        int4(4);
        int4(value);
    }

    /** A field of two bytes. */
    void raw2(int value) {
        int4(2);
        int2(value);
    }

    private void text(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        int4(bytes.length);
        bytes(bytes);
    }

    /** Not a number and the infinities: no digits, and a sign that says which. */
    private void special(String name) {
        int4(8);
        int2(0);
        int2(0);
        int2(SPECIAL.indexOf(name) * 0x1000 + FIRST_SPECIAL);
        int2(0);
    }

    /** Digits to base 10,000, the exponent of the first, sign, and how many decimals are shown. */
    private void numeric(BigDecimal number) {
        int scale = Math.max(0, number.scale());
        int padding = (DIGITS - scale % DIGITS) % DIGITS;
        BigInteger unscaled = number.setScale(scale + padding).unscaledValue().abs();
        int fraction = (scale + padding) / DIGITS;
        int[] digits = new int[unscaled.bitLength() / 13 + 1];
        int count = 0;
        if (unscaled.bitLength() < Long.SIZE) {
            for (long rest = unscaled.longValue(); rest > 0; rest /= BASE) {
                digits[count++] = (int) (rest % BASE);
            }
        } else {
            for (BigInteger rest = unscaled; rest.signum() > 0; ) {
                BigInteger[] parts = rest.divideAndRemainder(BIG_BASE);
                digits[count++] = parts[1].intValue();
                rest = parts[0];
            }
        }
        int last = 0;
        while (last < count && digits[last] == 0) {
            last++;
        }
        int4(8 + 2 * (count - last));
        int2(count - last);
        int2(count == last ? 0 : count - fraction - 1);
        int2(number.signum() < 0 ? NEGATIVE : 0);
        int2(scale);
        for (int i = count - 1; i >= last; i--) {
            int2(digits[i]);
        }
    }

    private void int2(int value) {
        room(2);
        buffer[size++] = (byte) (value >> 8);
        buffer[size++] = (byte) value;
    }

    private void int4(int value) {
        room(4);
        buffer[size++] = (byte) (value >> 24);
        buffer[size++] = (byte) (value >> 16);
        buffer[size++] = (byte) (value >> 8);
        buffer[size++] = (byte) value;
    }

    private void int8(long value) {
        int4((int) (value >> 32));
        int4((int) value);
    }

    private void bytes(byte[] bytes) {
        room(bytes.length);
        System.arraycopy(bytes, 0, buffer, size, bytes.length);
        size += bytes.length;
    }

    private void room(int needed) {
        if (size + needed > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + needed));
        }
    }
}
