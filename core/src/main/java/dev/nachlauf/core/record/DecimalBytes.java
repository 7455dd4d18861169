package dev.nachlauf.core.record;

import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.util.List;

/**
 * Exact numbers as bytes: how many digits to base 10,000 there are, the power of the first one, the sign, how many
 * decimals are shown, then the digits, two bytes each. Not a number and the infinities are texts to us; they have no
 * digits, and a sign that says which.
 */
final class DecimalBytes {
    /** In the order of their signs; there is none for the third. */
    private static final List<String> SPECIAL = List.of("NaN", "Infinity", "", "-Infinity");

    private static final int FIRST_SPECIAL = 0xC000;
    private static final int SPECIAL_STEP = 12;
    private static final int NEGATIVE = 0x4000;
    private static final int BASE = 10_000;
    private static final int DIGITS = 4;
    private static final int HEAD = 8;
    /** So many digits to the base fit into a long. */
    private static final int LARGEST_SMALL = 4;

    private static final int BITS_PER_DIGIT = 13;
    private static final BigInteger BIG_BASE = BigInteger.valueOf(BASE);

    private DecimalBytes() {}

    static void write(Object value, ByteSink out) {
        if (value instanceof String special) {
            out.int4(HEAD);
            out.int2(0);
            out.int2(0);
            out.int2((SPECIAL.indexOf(special) << SPECIAL_STEP) + FIRST_SPECIAL);
            out.int2(0);
        } else {
            write(Values.decimal(value), out);
        }
    }

    private static void write(BigDecimal number, ByteSink out) {
        int scale = Math.max(0, number.scale());
        int padding = (DIGITS - scale % DIGITS) % DIGITS;
        BigInteger unscaled = number.setScale(scale + padding).unscaledValue().abs();
        int fraction = (scale + padding) / DIGITS;
        int[] digits = new int[unscaled.bitLength() / BITS_PER_DIGIT + 1];
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
        out.int4(HEAD + Short.BYTES * (count - last));
        out.int2(count - last);
        out.int2(count == last ? 0 : count - fraction - 1);
        out.int2(number.signum() < 0 ? NEGATIVE : 0);
        out.int2(scale);
        for (int i = count - 1; i >= last; i--) {
            out.int2(digits[i]);
        }
    }

    /** The number that begins here, behind its length. */
    static Object read(byte[] data, int start) {
        int count = int2(data, start) & 0xFFFF;
        int weight = int2(data, start + 2);
        int sign = int2(data, start + 4) & 0xFFFF;
        int scale = int2(data, start + 6) & 0xFFFF;
        if (sign > NEGATIVE) {
            return SPECIAL.get(sign - FIRST_SPECIAL >> SPECIAL_STEP);
        }
        int digits = start + HEAD;
        int exponent = (count - 1 - weight) * DIGITS;
        BigDecimal value;
        if (count <= LARGEST_SMALL) {
            long unscaled = 0;
            for (int i = 0; i < count; i++) {
                unscaled = unscaled * BASE + int2(data, digits + Short.BYTES * i);
            }
            value = BigDecimal.valueOf(sign == NEGATIVE ? -unscaled : unscaled, exponent);
        } else {
            BigInteger unscaled = BigInteger.ZERO;
            for (int i = 0; i < count; i++) {
                unscaled = unscaled.multiply(BIG_BASE).add(BigInteger.valueOf(int2(data, digits + Short.BYTES * i)));
            }
            value = new BigDecimal(sign == NEGATIVE ? unscaled.negate() : unscaled, exponent);
        }
        return value.setScale(scale, RoundingMode.UNNECESSARY);
    }

    private static int int2(byte[] data, int at) {
        return (short) (data[at] << Byte.SIZE | data[at + 1] & 0xFF);
    }
}
