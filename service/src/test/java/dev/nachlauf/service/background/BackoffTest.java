package dev.nachlauf.service.background;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class BackoffTest {
    private static final Instant NOW = Instant.parse("2026-05-04T06:00:00Z");

    @Test
    void waitsTwiceAsLongEachTimeAndGivesUpAtLast() {
        Backoff backoff = new Backoff(Duration.ofSeconds(10), 4);
        assertThat(backoff.after(1, NOW)).hasValue(NOW.plusSeconds(10));
        assertThat(backoff.after(2, NOW)).hasValue(NOW.plusSeconds(20));
        assertThat(backoff.after(3, NOW)).hasValue(NOW.plusSeconds(40));
        assertThat(backoff.after(4, NOW)).isEmpty();
    }
}
