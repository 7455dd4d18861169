package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class ProgressBoardTest {
    private static final Duration LONG = Duration.ofHours(1);

    private final ProgressBoard board = new ProgressBoard();

    @Test
    void whoWaitsLooksAtOnceWhenAnAttemptIsOver() throws Exception {
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            long before = board.over();
            Future<?> follower = threads.submit(() -> {
                board.awaitMore(before, LONG);
                return "looks";
            });
            board.remove(1);
            assertThat(follower.get(1, TimeUnit.MINUTES)).isEqualTo("looks");
            assertThat(board.over()).isEqualTo(before + 1);
        }
    }

    /** What was over before the wait began is no surprise, and is not waited for. */
    @Test
    void anAttemptThatIsOverAlreadyIsNotWaitedFor() throws InterruptedException {
        long before = board.over();
        board.remove(1);
        board.awaitMore(before, LONG);
        assertThat(board.over()).isGreaterThan(before);
    }

    @Test
    void theWaitEndsByItself() throws InterruptedException {
        board.awaitMore(board.over(), Duration.ofMillis(1));
        assertThat(board.over()).isZero();
    }
}
