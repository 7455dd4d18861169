package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.service.look.RowWatch;
import dev.nachlauf.service.run.ProgressBoard.Progress;
import dev.nachlauf.service.run.RunFacts.Fact;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.transaction.TransactionException;

/**
 * Watches one attempt: puts its progress on the board, and looks twice a second whether somebody wants it to stop. Where
 * the batch in hand doesn't come to its end then, because its target hangs, the connection is cut.
 */
final class RunWatch implements RunObserver, AutoCloseable {
    static final String FETCHING = "fetching";
    static final String SURVEYING = "surveying";
    static final String WRITING = "writing";
    static final String PLANNING = "planning";
    private static final Logger LOG = LoggerFactory.getLogger(RunWatch.class);
    private static final Duration LOOK_EVERY = Duration.ofMillis(500);
    /** So long the batch in hand may take when a stop was heard. */
    private static final Duration BATCH_IN_HAND = Duration.ofSeconds(15);

    /** So many fetched rows lie between two looks at the board. */
    private static final int SHOW_EVERY = 1_000;

    private final long run;
    private final long epoch;
    private final ProgressBoard board;
    private final RunRepository runs;
    private final RunFacts facts;
    private final RunSlots.Slot slot;
    private final String job;
    private final Set<String> pauseAt;
    /** What it does with the rows when they are counted. */
    private final Supplier<String> work;

    private final List<Runnable> aborts = new CopyOnWriteArrayList<>();
    private final ScheduledExecutorService looking = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().name("run-watch").daemon().factory());
    private volatile boolean stop;
    private volatile long rows;
    private long fetched;
    private long heardAt;
    /** Who fetches; only changed and interrupted under the watch's monitor. */
    private @Nullable Thread fetching;

    private boolean interrupted;

    RunWatch(
            long run,
            long epoch,
            ProgressBoard board,
            RunRepository runs,
            RunFacts facts,
            RunSlots.Slot slot,
            String job,
            Set<String> pauseAt,
            Supplier<String> work) {
        this.run = run;
        this.epoch = epoch;
        this.board = board;
        this.runs = runs;
        this.facts = facts;
        this.slot = slot;
        this.job = job;
        this.pauseAt = pauseAt;
        this.work = work;
        board.put(run, new Progress(SURVEYING, 0, 0, Counts.NONE));
        look();
        long every = LOOK_EVERY.toMillis();
        looking.scheduleWithFixedDelay(this::look, every, every, TimeUnit.MILLISECONDS);
    }

    long epoch() {
        return epoch;
    }

    private void look() {
        try {
            if (!stop && runs.stopRequested(run).orElse(true)) {
                heardAt = System.nanoTime();
                stop = true;
            }
        } catch (DataAccessException | TransactionException e) {
            // our own database is away: the run finds that out by itself
        }
        if (stop) {
            interruptFetching();
        }
        if (stop && System.nanoTime() - heardAt > BATCH_IN_HAND.toNanos()) {
            aborts.forEach(Runnable::run);
        }
    }

    private synchronized void interruptFetching() {
        if (fetching != null) {
            fetching.interrupt();
            interrupted = true;
        }
    }

    /**
     * Fetches what the run reads, on this thread. Nothing is written yet: a stop ends it at the next row, or where it can be
     * interrupted.
     *
     * @throws StopHeard where somebody wants the run to end
     */
    <T> T fetching(Supplier<T> work) {
        board.put(run, new Progress(FETCHING, 0, 0, Counts.NONE));
        synchronized (this) {
            fetching = Thread.currentThread();
        }
        try {
            return RowWatch.during(this::fetchedRow, work);
        } catch (RuntimeException e) {
            throw stop ? new StopHeard() : e;
        } finally {
            synchronized (this) {
                fetching = null;
                if (interrupted) {
                    // it was meant for the fetching, not for what comes now
                    Thread.interrupted();
                }
            }
            board.put(run, new Progress(SURVEYING, 0, 0, Counts.NONE));
        }
    }

    private void fetchedRow() {
        if (stop) {
            throw new StopHeard();
        }
        if (++fetched % SHOW_EVERY == 0) {
            slot.moved();
            board.put(run, new Progress(FETCHING, fetched, 0, Counts.NONE));
        }
    }

    @Override
    public boolean stopRequested() {
        return stop;
    }

    @Override
    public void opened(Runnable abort) {
        aborts.add(abort);
    }

    @Override
    public void surveyed(long surveyed) {
        slot.moved();
        board.put(run, new Progress(SURVEYING, surveyed, 0, Counts.NONE));
    }

    @Override
    public void writing(long all) {
        slot.moved();
        rows = all;
        facts.note(run, epoch, Fact.ROWS, all);
        board.put(run, new Progress(work.get(), all, all, Counts.NONE));
    }

    @Override
    public void written(Counts counts) {
        slot.moved();
        board.put(run, new Progress(work.get(), rows, rows, counts));
    }

    @Override
    public void reached(Point point, int batch) {
        String here = job + "/" + point.name().toLowerCase(Locale.ROOT).replace('_', '-') + ":" + batch;
        if (pauseAt.contains(here)) {
            LOG.warn("paused at {}", here);
            try {
                new CountDownLatch(1).await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    @Override
    public void close() {
        looking.shutdownNow();
    }
}
