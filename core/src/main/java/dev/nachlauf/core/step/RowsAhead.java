package dev.nachlauf.core.step;

import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * Rows that a thread of their own reads ahead of whoever takes them, a few hundred at a time, so that reading and what
 * comes behind it keep two cores busy. Memory holds a few portions, however long the flow is. For one taker.
 */
public final class RowsAhead implements RowFlow {
    private static final int PORTION = 256;
    private static final int WAITING = 4;
    private static final long PATIENCE_MILLIS = 50;

    private final RowFlow rows;
    private final Thread reader;
    private final BlockingQueue<Portion> portions = new ArrayBlockingQueue<>(WAITING);
    private Iterator<FlowRow> current = List.<FlowRow>of().iterator();
    private Portion last = new Portion(List.of(), 0, false, null);
    private volatile boolean closed;

    /** Some rows, how many source rows were read up to them, and how the flow ended where it did. */
    private record Portion(
            List<FlowRow> rows,
            long read,
            boolean end,
            @Nullable RuntimeException failure) {}

    /** @param rows is closed with this flow */
    public RowsAhead(RowFlow rows) {
        this.rows = rows;
        this.reader = Thread.ofPlatform().name("rows-ahead").daemon().start(this::readAhead);
    }

    private void readAhead() {
        boolean more = true;
        while (more && !closed) {
            Portion portion = portion();
            more = !portion.end;
            put(portion);
        }
    }

    /** What was read before a failure goes first. */
    private Portion portion() {
        List<FlowRow> some = new ArrayList<>(PORTION);
        try {
            while (some.size() < PORTION) {
                FlowRow row = rows.next();
                if (row == null) {
                    return new Portion(some, rows.read(), true, null);
                }
                some.add(row);
            }
            return new Portion(some, rows.read(), false, null);
        } catch (RuntimeException e) {
            return new Portion(some, rows.read(), true, e);
        } catch (Error e) {
            return new Portion(some, rows.read(), true, new IllegalStateException(e));
        }
    }

    private void put(Portion portion) {
        try {
            while (!closed && !portions.offer(portion, PATIENCE_MILLIS, TimeUnit.MILLISECONDS)) {
                // the taker is behind
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            closed = true;
        }
    }

    @Override
    public @Nullable FlowRow next() {
        while (!current.hasNext()) {
            if (last.end) {
                if (last.failure != null) {
                    throw last.failure;
                }
                return null;
            }
            last = take();
            current = last.rows.iterator();
        }
        return current.next();
    }

    private Portion take() {
        try {
            return portions.take();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while rows were read", e);
        }
    }

    /** As far as the portion in hand goes; exact at the end. */
    @Override
    public long read() {
        return last.read;
    }

    @Override
    public void close() {
        closed = true;
        boolean interrupted = false;
        while (reader.isAlive()) {
            try {
                reader.join();
            } catch (InterruptedException e) {
                interrupted = true;
            }
        }
        rows.close();
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }
}
