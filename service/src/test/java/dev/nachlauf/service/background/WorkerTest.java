package dev.nachlauf.service.background;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class WorkerTest {
    private static final Duration NEVER = Duration.ofDays(1);

    @Test
    void worksWheneverItIsWokenAlsoAfterAFailure() throws InterruptedException {
        BlockingQueue<Integer> done = new LinkedBlockingQueue<>();
        AtomicInteger rounds = new AtomicInteger();
        try (Worker worker = new Worker("test", "nothing came of it", () -> {
            done.add(rounds.incrementAndGet());
            throw new IllegalStateException("as the test wants it");
        })) {
            worker.start(NEVER, NEVER);
            worker.wake();
            worker.wake();
            assertThat(done.poll(1, TimeUnit.MINUTES)).isEqualTo(1);
            assertThat(done.poll(1, TimeUnit.MINUTES)).isEqualTo(2);
        }
    }

    @Test
    void worksEverySoOftenUntilItIsClosed() throws InterruptedException {
        BlockingQueue<Integer> done = new LinkedBlockingQueue<>();
        Worker worker = new Worker("test", "nothing came of it", () -> done.add(1));
        worker.start(Duration.ZERO, Duration.ofMillis(1));
        assertThat(done.poll(1, TimeUnit.MINUTES)).isEqualTo(1);
        assertThat(done.poll(1, TimeUnit.MINUTES)).isEqualTo(1);
        worker.close();
        worker.wake();
    }
}
