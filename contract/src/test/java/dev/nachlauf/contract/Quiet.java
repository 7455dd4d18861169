package dev.nachlauf.contract;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.run.RunObserver;

/** Watches a run and does nothing about it. */
class Quiet implements RunObserver {
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
