package dev.nachlauf.service.look;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.environment.ChosenEnvironment;
import jakarta.annotation.PreDestroy;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Carries out looks, a few at a time, and keeps their results for a while. */
@Service
public class Looks {
    /** Looks that are carried out at the same time. */
    static final int MOST_AT_ONCE = 6;
    /** Of them, looks at the same connection: its other users want it, too. */
    static final int MOST_AT_ONE_PLACE = 4;
    /** Looks that wait for their turn. */
    static final int MOST_WAITING = 50;
    /** Looks whose results are kept. */
    static final int MOST_KEPT = 100;

    private static final Duration KEPT_FOR = Duration.ofMinutes(10);

    private final Clock clock;
    private final Duration deadline;
    /** All looks that are not forgotten, oldest first; only used under the monitor, as the next one. */
    private final Map<String, Look> known = new LinkedHashMap<>();

    private final Map<String, Integer> busy = new HashMap<>();
    /** Threads of the platform: looks that compute keep no virtual thread of others from running. */
    private final ExecutorService workers = Executors.newCachedThreadPool(
            Thread.ofPlatform().name("look-", 1).daemon().factory());

    private final ScheduledExecutorService watch = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().name("look-watch").daemon().factory());

    Looks(NachlaufSettings settings, Clock clock) {
        this.clock = clock;
        this.deadline = settings.lookDeadline();
        watch.scheduleWithFixedDelay(this::endOverdue, 1, 1, TimeUnit.SECONDS);
    }

    /**
     * What a look finds, as soon as it has its turn and is done.
     *
     * @param place the connection that is looked at; null for files of our own
     * @throws LookUnderWay where it takes longer than the caller wants to wait
     */
    public <T> T result(HttpServletRequest request, String what, @Nullable String place, Supplier<T> work) {
        return result(Asking.of(request), what, place, work);
    }

    /**
     * What a look finds, however long it takes until its deadline: for calls that change something afterwards, of which
     * nobody would ask for the result.
     */
    public <T> T whole(HttpServletRequest request, String what, Supplier<T> work) {
        Asking by = Asking.of(request);
        return result(new Asking(by.caller(), deadline.plus(deadline)), what, null, work);
    }

    @SuppressWarnings("unchecked")
    <T> T result(Asking by, String what, @Nullable String place, Supplier<T> work) {
        Look look = begin(what, by.caller(), Objects.requireNonNullElse(place, ""), work);
        return (T) result(look, by.patience());
    }

    private Object result(Look look, Duration patience) {
        try {
            Object found = look.await(patience);
            forget(look);
            return found;
        } catch (LookUnderWay e) {
            // it is kept for whoever was told its name, even where it is done by now
            throw e;
        } catch (RuntimeException e) {
            forget(look);
            throw e;
        }
    }

    /** Who has the answer has it. */
    private synchronized void forget(Look look) {
        known.remove(look.id());
    }

    private synchronized Look begin(String what, String by, String place, Supplier<?> work) {
        if (known.values().stream().filter(Look::isWaiting).count() >= MOST_WAITING) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.TOO_BUSY,
                    MOST_WAITING + " looks wait for their turn already.",
                    "Try again in a moment."));
        }
        Instant now = clock.instant();
        Look look = new Look(
                UUID.randomUUID().toString(),
                what,
                by,
                place,
                now,
                now.plus(deadline),
                ChosenEnvironment.carried(work));
        known.put(look.id(), look);
        next();
        return look;
    }

    private int running() {
        return busy.values().stream().mapToInt(Integer::intValue).sum();
    }

    /** Carries out whatever has its turn. */
    private synchronized void next() {
        if (workers.isShutdown()) {
            return;
        }
        for (Look look : known.values()) {
            if (running() >= MOST_AT_ONCE) {
                return;
            }
            if (look.claim(busy.getOrDefault(look.place(), 0) < MOST_AT_ONE_PLACE)) {
                busy.merge(look.place(), 1, Integer::sum);
                workers.execute(() -> carryOut(look));
            }
        }
    }

    private void carryOut(Look look) {
        try {
            look.carryOut();
        } finally {
            synchronized (this) {
                look.keepUntil(clock.instant().plus(KEPT_FOR));
                busy.merge(look.place(), -1, Integer::sum);
                busy.remove(look.place(), 0);
                next();
            }
        }
    }

    /** The looks of a caller that are under way or have a result. */
    public synchronized List<Look> of(String caller) {
        return known.values().stream().filter(look -> look.by().equals(caller)).toList();
    }

    /** A look of a caller. */
    synchronized Look find(String id, String caller) {
        Look look = known.get(id);
        if (look == null || !look.by().equals(caller)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.NOT_FOUND,
                    "There is no look " + id + ", or its result has expired.",
                    "Results are kept for " + KEPT_FOR.toMinutes() + " minutes. Look again."));
        }
        return look;
    }

    /** The result of a look that an earlier call named. */
    Object result(String id, Asking by) {
        return result(find(id, by.caller()), by.patience());
    }

    /** Ends a look because its caller wants that. */
    void stop(Look look) {
        stop(look, "The look was stopped.", "Ask again.");
    }

    private synchronized void stop(Look look, String why, String remedy) {
        look.stop(Problem.of(ProblemCode.LOOK_ENDED, why, remedy));
        if (look.isOver()) {
            look.keepUntil(clock.instant().plus(KEPT_FOR));
        }
    }

    private void endOverdue() {
        Instant now = clock.instant();
        List<Look> overdue = new ArrayList<>();
        synchronized (this) {
            int kept = known.size();
            for (Iterator<Look> looks = known.values().iterator(); looks.hasNext(); ) {
                Look look = looks.next();
                boolean expired = look.until().isBefore(now);
                if (look.isOver() && (expired || kept > MOST_KEPT)) {
                    looks.remove();
                    kept--;
                } else if (expired) {
                    overdue.add(look);
                }
            }
        }
        overdue.forEach(look -> stop(
                look,
                "The look took longer than " + deadline.toSeconds() + " seconds and was ended.",
                "Look at less, or have NACHLAUF_LOOK_DEADLINE raised."));
    }

    @PreDestroy
    void end() {
        watch.shutdownNow();
        workers.shutdownNow();
    }
}
