package dev.nachlauf.core.run;

/** Runs all along a stage that takes long, so that a stop is heard in each of them. */
final class Pulse implements Runnable {
    private final RunObserver observer;

    Pulse(RunObserver observer) {
        this.observer = observer;
    }

    @Override
    public void run() {
        if (observer.stopRequested()) {
            throw new StopHeard();
        }
    }

    /** Somebody wants the run to end. */
    static final class StopHeard extends RuntimeException {
        private static final long serialVersionUID = 1L;

        StopHeard() {
            super("the run is to end", null, false, false);
        }
    }
}
