package dev.nachlauf.contract;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.RunObserver;
import java.util.concurrent.atomic.AtomicBoolean;

/** Watches a run and does nothing about it. */
class Quiet implements RunObserver {
    /** Dies once at a point of a batch, as a process does that is killed there. */
    static Quiet dyingAt(Point where, int which) {
        AtomicBoolean died = new AtomicBoolean();
        return new Quiet() {
            @Override
            public void reached(Point point, int batch) {
                if (point == where && batch == which && died.compareAndSet(false, true)) {
                    throw new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "Died.", ""));
                }
            }
        };
    }

    @Override
    public boolean stopRequested() {
        return false;
    }

    @Override
    public void opened(Runnable abort) {}

    @Override
    public void surveyed(long rows) {}

    @Override
    public void writing(long rows) {}

    @Override
    public void written(Counts counts) {}

    @Override
    public void reached(Point point, int batch) {}
}
