package dev.nachlauf.service.background;

import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** One thread that does what is due: whenever it is woken, and every so often. What goes wrong is told and tried again. */
public final class Worker implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Worker.class);

    private final ScheduledExecutorService thread;
    private final Runnable work;
    private final String lacking;

    /**
     * A worker that does nothing before it is started.
     *
     * @param lacking what is told where the work fails, such as {@code results could not be put back}
     */
    public Worker(String name, String lacking, Runnable work) {
        this.thread = Executors.newSingleThreadScheduledExecutor(
                task -> Thread.ofPlatform().name(name).daemon().unstarted(task));
        this.lacking = lacking;
        this.work = work;
    }

    /** Works for the first time after a while, and then again and again. */
    public void start(Duration first, Duration every) {
        thread.scheduleWithFixedDelay(this::workQuietly, first.toMillis(), every.toMillis(), TimeUnit.MILLISECONDS);
    }

    /** There may be something to do. */
    public void wake() {
        try {
            thread.execute(this::workQuietly);
        } catch (RejectedExecutionException e) {
            // the service ends; the next start sees to it
        }
    }

    private void workQuietly() {
        try {
            work.run();
        } catch (RuntimeException e) {
            LOG.warn("{}; that is tried again", lacking, e);
        }
    }

    /** Breaks off what it does. */
    @Override
    public void close() {
        thread.shutdownNow();
    }
}
