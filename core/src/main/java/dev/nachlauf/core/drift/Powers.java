package dev.nachlauf.core.drift;

import java.math.BigDecimal;
import java.math.MathContext;
import java.util.Optional;

/** Sizes of numbers that differ by ten, a hundred or a thousand. */
final class Powers {
    private static final int[] POWERS = {10, 100, 1_000};
    /** Typical sizes of two loads of the same kind differ by less. */
    private static final double NEAR = 1.6;
    /** Sizes that were so far apart have no usual one. */
    private static final double APART = 3;

    private Powers() {}

    /** Whether sizes, the smallest first, have no usual one. */
    static boolean areFarApart(double[] sizes) {
        return sizes[sizes.length - 1] > sizes[0] * APART;
    }

    /** Which power lies between two sizes, in words; empty where none does. */
    static Optional<String> between(double usual, double now) {
        for (int power : POWERS) {
            if (isNear(now / usual, power)) {
                return Optional.of(power + " times");
            }
            if (isNear(usual / now, power)) {
                return Optional.of("a " + (power == 10 ? "tenth" : power == 100 ? "hundredth" : "thousandth") + " of");
            }
        }
        return Optional.empty();
    }

    private static boolean isNear(double ratio, int power) {
        return ratio > power / NEAR && ratio < power * NEAR;
    }

    /** A size for people. */
    static String text(double size) {
        return new BigDecimal(size)
                .round(new MathContext(4))
                .stripTrailingZeros()
                .toPlainString();
    }
}
