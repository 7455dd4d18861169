package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.service.run.ProgressBoard.Progress;
import java.util.Locale;
import java.util.concurrent.CountDownLatch;
import java.util.function.BooleanSupplier;
import java.util.function.LongConsumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Watches one run: puts its progress on the board and passes on that somebody wants it to stop. */
final class RunWatch implements RunObserver {
    static final String SURVEYING = "surveying";
    static final String WRITING = "writing";
    private static final Logger LOG = LoggerFactory.getLogger(RunWatch.class);

    private final long run;
    private final ProgressBoard board;
    private final BooleanSupplier stop;
    private final LongConsumer rowsKnown;
    private final String pauseAt;
    private volatile long rows;

    RunWatch(long run, ProgressBoard board, BooleanSupplier stop, LongConsumer rowsKnown, String pauseAt) {
        this.run = run;
        this.board = board;
        this.stop = stop;
        this.rowsKnown = rowsKnown;
        this.pauseAt = pauseAt;
        board.put(run, new Progress(SURVEYING, 0, 0, Counts.NONE));
    }

    @Override
    public boolean stopRequested() {
        return stop.getAsBoolean();
    }

    @Override
    public void surveyed(long surveyed) {
        board.put(run, new Progress(SURVEYING, surveyed, 0, Counts.NONE));
    }

    @Override
    public void writing(long all) {
        rows = all;
        rowsKnown.accept(all);
        board.put(run, new Progress(WRITING, all, all, Counts.NONE));
    }

    @Override
    public void written(Counts counts) {
        board.put(run, new Progress(WRITING, rows, rows, counts));
    }

    @Override
    public void reached(Point point, int batch) {
        String here = point.name().toLowerCase(Locale.ROOT).replace('_', '-') + ":" + batch;
        if (here.equals(pauseAt)) {
            LOG.warn("paused at {}", here);
            try {
                new CountDownLatch(1).await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }
}
