package dev.nachlauf.service.background;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * When something that has failed is tried again: after a while, and each time after twice as long.
 *
 * @param first the wait after the first try
 * @param tries after so many it is given up
 */
public record Backoff(Duration first, int tries) {
    /**
     * When it is tried again that was tried so often; empty where it is given up.
     *
     * @param tried from 1
     */
    public Optional<Instant> after(int tried, Instant now) {
        return tried < tries ? Optional.of(now.plus(first.multipliedBy(1L << (tried - 1)))) : Optional.empty();
    }
}
