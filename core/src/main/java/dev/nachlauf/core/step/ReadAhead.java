package dev.nachlauf.core.step;

import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * Rows that a thread of its own reads a little ahead, while those before are worked on. What ends the reading comes behind
 * the rows that were read.
 */
public final class ReadAhead implements RowFlow {
    private static final int BLOCK = 1_000;
    /** A block of larger rows ends sooner, so that memory holds no more of them than of others. */
    private static final long BLOCK_CHARACTERS = 1_000_000;

    private static final int BLOCKS = 4;
    private static final long PATIENCE_MILLIS = 50;

    private final RowFlow rows;
    private final BlockingQueue<Block> blocks = new ArrayBlockingQueue<>(BLOCKS);
    private final Thread reader;
    private volatile boolean closing;
    private Block current = new Block(List.of(), false, null);
    private Iterator<FlowRow> left = current.rows.iterator();
    private long given;

    /** Some rows; {@code failure} comes behind them. */
    private record Block(
            List<FlowRow> rows, boolean last, @Nullable Throwable failure) {}

    /** @param rows are read by one thread from now on, until this flow is closed; each stands for one row of the source */
    public ReadAhead(RowFlow rows) {
        this.rows = rows;
        this.reader = Thread.ofPlatform().name("reads-ahead").daemon().start(this::readOn);
    }

    private void readOn() {
        try (rows) {
            Block block = block();
            while (put(block) && !block.last) {
                block = block();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private Block block() {
        List<FlowRow> read = new ArrayList<>(BLOCK);
        long characters = 0;
        try {
            while (read.size() < BLOCK && characters < BLOCK_CHARACTERS) {
                FlowRow row = rows.next();
                if (row == null) {
                    return new Block(read, true, null);
                }
                read.add(row);
                characters += row.characters();
            }
            return new Block(read, false, null);
        } catch (RuntimeException | Error e) {
            return new Block(read, true, e);
        }
    }

    private boolean put(Block block) throws InterruptedException {
        boolean put = false;
        while (!put && !closing) {
            put = blocks.offer(block, PATIENCE_MILLIS, TimeUnit.MILLISECONDS);
        }
        return put;
    }

    @Override
    public @Nullable FlowRow next() {
        while (!left.hasNext()) {
            if (current.last) {
                end();
                return null;
            }
            current = take();
            left = current.rows.iterator();
        }
        given++;
        return left.next();
    }

    private Block take() {
        try {
            return blocks.take();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while rows were read", e);
        }
    }

    private void end() {
        switch (current.failure) {
            case RuntimeException failure -> throw failure;
            case Error failure -> throw failure;
            case null, default -> {}
        }
    }

    /** Those that were given; what was read beyond them isn't counted. */
    @Override
    public long read() {
        return given;
    }

    @Override
    public void close() {
        closing = true;
        try {
            // it closes the rows as the last thing it does
            reader.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
