package dev.nachlauf.service.run;

import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.stereotype.Component;

/**
 * How many runs work at once, which bounds the memory that they hold. A run that has not moved for a while waits for a
 * target and holds next to nothing: its slot is given away, so that one target that hangs keeps no other run waiting.
 */
@Component
class RunSlots {
    private static final int AT_ONCE = 4;
    private static final Duration STILL = Duration.ofSeconds(30);
    private static final Duration LOOK_EVERY = Duration.ofSeconds(2);

    private final Semaphore free = new Semaphore(AT_ONCE, true);
    private final Set<Slot> taken = ConcurrentHashMap.newKeySet();
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().name("run-slots").daemon().factory());
    private final long still;

    RunSlots() {
        this(STILL);
    }

    RunSlots(Duration still) {
        this.still = still.toNanos();
        long every = Math.min(LOOK_EVERY.toMillis(), Math.max(1, still.toMillis() / 2));
        clock.scheduleWithFixedDelay(() -> taken.forEach(this::giveAwayIfStill), every, every, TimeUnit.MILLISECONDS);
    }

    /** A run's slot. */
    final class Slot implements AutoCloseable {
        private volatile long moved = System.nanoTime();
        private boolean held = true;

        /** The run has got on. */
        void moved() {
            moved = System.nanoTime();
        }

        private synchronized void giveAway() {
            if (held) {
                held = false;
                free.release();
            }
        }

        @Override
        public void close() {
            taken.remove(this);
            giveAway();
        }
    }

    /** Waits for a slot. */
    Slot take() throws InterruptedException {
        free.acquire();
        Slot slot = new Slot();
        taken.add(slot);
        return slot;
    }

    private void giveAwayIfStill(Slot slot) {
        if (System.nanoTime() - slot.moved > still) {
            slot.giveAway();
        }
    }

    @PreDestroy
    void end() {
        clock.shutdownNow();
    }
}
