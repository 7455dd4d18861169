package dev.nachlauf.service.look;

import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Whoever has rows read on a thread hears of each of them: a look, or a run that fetches its source. A watcher that wants
 * the reading to end throws.
 */
public final class RowWatch {
    private static final ThreadLocal<@Nullable Runnable> CURRENT = new ThreadLocal<>();

    private RowWatch() {}

    /** Does some work on this thread, and calls the watcher for each row that is read for it. */
    public static <T extends @Nullable Object> T during(Runnable watcher, Supplier<T> work) {
        CURRENT.set(watcher);
        try {
            return work.get();
        } finally {
            CURRENT.remove();
        }
    }

    /** The reader, watched where this thread has a watcher; as it is elsewhere. */
    public static SourceReader over(SourceReader reader) {
        Runnable watcher = CURRENT.get();
        return watcher == null ? reader : new WatchedReader(reader, watcher);
    }

    /** One row more was read on this thread. */
    public static void row() {
        Runnable watcher = CURRENT.get();
        if (watcher != null) {
            watcher.run();
        }
    }
}
