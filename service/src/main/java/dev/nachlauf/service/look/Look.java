package dev.nachlauf.service.look;

import dev.nachlauf.api.LookView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * One look, from the call that asked for it until its result expires. The thread that carries it out knows it: every row
 * that is read on the way counts as progress, and is where a stop is heard.
 */
public final class Look {
    private enum State {
        WAITING,
        /** Has its turn; a thread is on its way. */
        CALLED,
        LOOKING,
        DONE,
        FAILED;

        String word() {
            return (this == CALLED ? WAITING : this).name().toLowerCase(Locale.ROOT);
        }
    }

    private final String id;
    private final String what;
    private final String by;
    private final String place;
    private final Instant askedAt;
    private final Supplier<?> work;
    private final CompletableFuture<Object> result = new CompletableFuture<>();
    private final AtomicLong rows = new AtomicLong();
    private volatile State state = State.WAITING;
    /** Why it has to end; null while it may go on. */
    private volatile @Nullable Problem ending;
    /** Until when it may take, and when it is over, until when its result is kept. */
    private volatile Instant until;
    /** Who carries it out; only changed and interrupted under the look's monitor. */
    private @Nullable Thread worker;

    Look(String id, String what, String by, String place, Instant askedAt, Instant deadline, Supplier<?> work) {
        this.id = id;
        this.what = what;
        this.by = by;
        this.place = place;
        this.askedAt = askedAt;
        this.until = deadline;
        this.work = work;
    }

    /**
     * One row more was read.
     *
     * @throws CannotGoOn where the look has to end
     */
    private void row() {
        rows.incrementAndGet();
        Problem why = ending;
        if (why != null) {
            throw new CannotGoOn(why);
        }
    }

    /** Gives it its turn, where it waits and there is room. */
    synchronized boolean claim(boolean room) {
        if (state != State.WAITING || !room) {
            return false;
        }
        state = State.CALLED;
        return true;
    }

    /** Carries the look out on this thread. */
    void carryOut() {
        synchronized (this) {
            if (ending != null) {
                return;
            }
            worker = Thread.currentThread();
            state = State.LOOKING;
        }
        Object found = null;
        Throwable failure = null;
        try {
            found = RowWatch.during(this::row, work::get);
        } catch (RuntimeException | Error e) {
            failure = e;
        }
        synchronized (this) {
            worker = null;
            // an interrupt that came too late must not meet the next look of this thread
            Thread.interrupted();
            if (ending == null) {
                state = failure == null ? State.DONE : State.FAILED;
            }
        }
        if (failure == null) {
            result.complete(found);
        } else {
            result.completeExceptionally(failure);
        }
    }

    /**
     * Ends it for whoever waits for it. Its thread ends at the next row, or where it can be interrupted; until then it keeps
     * its place.
     */
    synchronized void stop(Problem why) {
        if (ending != null || isOver()) {
            return;
        }
        ending = why;
        state = State.FAILED;
        if (worker != null) {
            worker.interrupt();
        }
        result.completeExceptionally(new CannotGoOn(why));
    }

    /**
     * What it found, or why it failed.
     *
     * @throws LookUnderWay where it takes longer
     * @throws CannotGoOn where it can't be carried out
     */
    Object await(Duration patience) {
        try {
            return result.get(patience.toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException e) {
            throw new LookUnderWay(view());
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RuntimeException failure) {
                throw failure;
            }
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new LookUnderWay(view());
        }
    }

    LookView view() {
        return new LookView(id, what, state.word(), rows.get(), askedAt);
    }

    boolean isWaiting() {
        return state == State.WAITING;
    }

    boolean isOver() {
        return state == State.DONE || state == State.FAILED;
    }

    String id() {
        return id;
    }

    String by() {
        return by;
    }

    /** What it looks at: looks at the same place are counted together. */
    String place() {
        return place;
    }

    Instant until() {
        return until;
    }

    /** From when on its result may be forgotten. */
    void keepUntil(Instant expiry) {
        until = expiry;
    }
}
