package dev.nachlauf.core.run;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * One reader and one or two writers with a short queue between them, so that memory holds a few batches however long
 * the file is. When one of them fails, or a limit is crossed, or somebody stops the run, the others end after the batch
 * in hand.
 */
final class Pipeline<B> {
    private static final int WAITING = 2;
    private static final long PATIENCE_MILLIS = 50;

    private final Supplier<@Nullable B> batches;
    private final List<? extends Writer<B>> writers;
    private final BooleanSupplier stopRequested;
    private final BlockingQueue<Optional<B>> queue = new ArrayBlockingQueue<>(WAITING);
    private volatile boolean ending;

    /** Writes batches, each on a thread that it has for itself. */
    interface Writer<B> {
        /** Writes a batch; false where nothing is to be written any more. */
        boolean write(B batch);

        /** Nothing comes any more. */
        void finish();
    }

    /** @param batches gives one after the other, null at the end; asked on one thread */
    Pipeline(Supplier<@Nullable B> batches, List<? extends Writer<B>> writers, BooleanSupplier stopRequested) {
        this.batches = batches;
        this.writers = writers;
        this.stopRequested = stopRequested;
    }

    void run() {
        try (ExecutorService threads = Executors.newFixedThreadPool(writers.size() + 1)) {
            List<Future<?>> parts = new ArrayList<>();
            parts.add(threads.submit(() -> guarded(this::read)));
            for (Writer<B> writer : writers) {
                parts.add(threads.submit(() -> guarded(() -> write(writer))));
            }
            await(parts);
        }
    }

    private interface Part {
        void run() throws InterruptedException;
    }

    private void guarded(Part part) {
        try {
            part.run();
        } catch (InterruptedException e) {
            ending = true;
            Thread.currentThread().interrupt();
        } catch (Throwable e) {
            ending = true;
            throw e;
        }
    }

    private void read() throws InterruptedException {
        for (B batch = batches.get(); batch != null && !ending; batch = batches.get()) {
            put(Optional.of(batch));
        }
        for (int i = 0; i < writers.size(); i++) {
            put(Optional.empty());
        }
    }

    private void put(Optional<B> batch) throws InterruptedException {
        while (!ending && !queue.offer(batch, PATIENCE_MILLIS, TimeUnit.MILLISECONDS)) {
            // the writers are behind
        }
    }

    private void write(Writer<B> writer) throws InterruptedException {
        boolean more = true;
        try {
            while (more && !ending && !stopRequested.getAsBoolean()) {
                Optional<B> batch = queue.poll(PATIENCE_MILLIS, TimeUnit.MILLISECONDS);
                if (batch != null) {
                    more = batch.isPresent();
                    if (batch.isPresent() && !writer.write(batch.get())) {
                        ending = true;
                    }
                }
            }
        } catch (RunRecords.Fenced e) {
            throw e;
        } catch (RuntimeException e) {
            ending = true;
            finishAfter(writer, e);
            throw e;
        }
        if (more) {
            ending = true;
        }
        writer.finish();
    }

    /** What is committed is known to be, whatever came then. */
    private static void finishAfter(Writer<?> writer, RuntimeException failure) {
        try {
            writer.finish();
        } catch (RuntimeException e) {
            failure.addSuppressed(e);
        }
    }

    /** The first failure wins; the others are its followers. */
    private static void await(List<Future<?>> parts) {
        RuntimeException failure = null;
        for (Future<?> part : parts) {
            try {
                part.get();
            } catch (ExecutionException e) {
                RuntimeException cause = e.getCause() instanceof RuntimeException known
                        ? known
                        : new IllegalStateException(e.getCause());
                if (failure == null) {
                    failure = cause;
                } else if (failure != cause) {
                    failure.addSuppressed(cause);
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                parts.forEach(other -> other.cancel(true));
                throw new IllegalStateException("interrupted while a run was under way", e);
            }
        }
        if (failure != null) {
            throw failure;
        }
    }
}
