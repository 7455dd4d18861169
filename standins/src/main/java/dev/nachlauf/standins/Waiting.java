package dev.nachlauf.standins;

import java.util.function.BooleanSupplier;
import java.util.function.Predicate;
import java.util.function.Supplier;

/** How tests wait for what another thread or process does; the build's limit on the time of a test ends the wait. */
public final class Waiting {
    private Waiting() {}

    public static void until(BooleanSupplier met) {
        for (; ; ) {
            if (met.getAsBoolean()) {
                return;
            }
            onward();
        }
    }

    /** Asks again until the answer is as it should be; the result is that answer. */
    public static <T> T until(Supplier<T> asked, Predicate<T> met) {
        for (; ; ) {
            T answer = asked.get();
            if (met.test(answer)) {
                return answer;
            }
            onward();
        }
    }

    private static void onward() {
        if (Thread.interrupted()) {
            throw new IllegalStateException("what the test waits for does not happen");
        }
        Thread.onSpinWait();
    }
}
