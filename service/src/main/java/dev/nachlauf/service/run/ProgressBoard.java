package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Counts;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.Lock;
import java.util.concurrent.locks.ReentrantLock;
import org.springframework.stereotype.Component;

/** How far the runs of this process are; what is not here is asked from the database. */
@Component
class ProgressBoard {
    private final Map<Long, Live> runs = new ConcurrentHashMap<>();
    private final Lock lock = new ReentrantLock();
    private final Condition another = lock.newCondition();
    private long over;

    /** The state of a run under way; {@code rows} is 0 until the survey is done. */
    record Progress(String phase, long surveyed, long rows, Counts counts) {
        /** How many rows have gone through the phase. */
        private long done() {
            return rows == 0 ? surveyed : counts.read();
        }
    }

    /** A run and how fast it moves. */
    private record Live(Progress progress, Pace pace) {}

    void put(long run, Progress progress) {
        Pace.Mark now = new Pace.Mark(System.nanoTime(), progress.done());
        runs.compute(
                run,
                (id, before) -> new Live(
                        progress,
                        before != null && before.progress.phase.equals(progress.phase)
                                ? before.pace.at(now)
                                : Pace.from(now)));
    }

    /** An attempt is over: whoever waits for one looks at once. */
    void remove(long run) {
        runs.remove(run);
        lock.lock();
        try {
            over++;
            another.signalAll();
        } finally {
            lock.unlock();
        }
    }

    /** How many attempts of this process are over. */
    long over() {
        lock.lock();
        try {
            return over;
        } finally {
            lock.unlock();
        }
    }

    /** Waits until more attempts are over than there were, or the time has passed: another process may carry the run out. */
    void awaitMore(long before, Duration most) throws InterruptedException {
        long left = most.toNanos();
        lock.lock();
        try {
            while (over == before && left > 0) {
                left = another.awaitNanos(left);
            }
        } finally {
            lock.unlock();
        }
    }

    Optional<Progress> find(long run) {
        return Optional.ofNullable(runs.get(run)).map(Live::progress);
    }

    /** How fast a run under way moves; empty where it is not one of this process. */
    Optional<Pace> pace(long run) {
        return Optional.ofNullable(runs.get(run)).map(Live::pace);
    }
}
