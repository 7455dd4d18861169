package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

/** A run whose target hangs gives its place away, and gets no second one by it. */
class RunSlotsTest {
    @Test
    void runsThatStandStillKeepNoOtherWaiting() throws Exception {
        RunSlots slots = new RunSlots(Duration.ofMillis(20));
        List<RunSlots.Slot> hung = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            hung.add(slots.take());
        }
        List<RunSlots.Slot> others = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            others.add(inTime(slots));
        }
        hung.forEach(RunSlots.Slot::close);
        hung.forEach(RunSlots.Slot::close);
        others.forEach(RunSlots.Slot::close);
        assertThat(inTime(slots)).isNotNull();
        slots.end();
    }

    private static CompletableFuture<RunSlots.Slot> later(RunSlots slots) {
        CompletableFuture<RunSlots.Slot> taken = new CompletableFuture<>();
        Thread.startVirtualThread(() -> {
            try {
                taken.complete(slots.take());
            } catch (InterruptedException e) {
                taken.completeExceptionally(e);
            }
        });
        return taken;
    }

    private static RunSlots.Slot inTime(RunSlots slots) throws Exception {
        return later(slots).get(1, TimeUnit.MINUTES);
    }

    @Test
    void runsThatMoveAreNeverMoreThanTheSlots() throws Exception {
        RunSlots slots = new RunSlots(Duration.ofHours(1));
        List<RunSlots.Slot> taken = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            taken.add(slots.take());
        }
        taken.forEach(RunSlots.Slot::moved);
        CompletableFuture<RunSlots.Slot> fifth = later(slots);
        assertThat(fifth).isNotDone();
        taken.getFirst().close();
        assertThat(fifth.get(1, TimeUnit.MINUTES)).isNotNull();
        slots.end();
    }
}
