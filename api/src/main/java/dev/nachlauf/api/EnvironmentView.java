package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;

/**
 * An environment: where jobs run.
 *
 * @param live whether it is the one that counts: only what was promoted to it runs there
 * @param values the names of its values
 * @param document as it was written
 */
public record EnvironmentView(
        String name,
        String title,
        boolean live,
        List<String> values,
        String document,
        Instant savedAt,
        String savedBy) {}
