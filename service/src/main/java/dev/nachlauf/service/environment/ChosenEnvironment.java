package dev.nachlauf.service.environment;

import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** The name of the environment that the work on this thread is about, where one was named. */
public final class ChosenEnvironment {
    private static final ThreadLocal<@Nullable String> CURRENT = new ThreadLocal<>();

    private ChosenEnvironment() {}

    /** The name; empty where none was named. The empty name stands for no environment at all. */
    public static Optional<String> name() {
        return Optional.ofNullable(CURRENT.get());
    }

    /** Does some work on this thread in an environment. */
    public static <T extends @Nullable Object> T during(@Nullable String name, Supplier<T> work) {
        String before = CURRENT.get();
        set(name);
        try {
            return work.get();
        } finally {
            set(before);
        }
    }

    /** The work, to be done on another thread in the environment of this one. */
    public static <T extends @Nullable Object> Supplier<T> carried(Supplier<T> work) {
        String name = CURRENT.get();
        return () -> during(name, work);
    }

    static void set(@Nullable String name) {
        if (name == null) {
            CURRENT.remove();
        } else {
            CURRENT.set(name);
        }
    }
}
