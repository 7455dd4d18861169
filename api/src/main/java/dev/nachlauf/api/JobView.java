package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A job in its newest version.
 *
 * @param problems what the check found when the version was saved
 * @param lastRun null where it never ran
 */
public record JobView(
        String name,
        String title,
        String notes,
        int version,
        boolean draft,
        String document,
        Instant savedAt,
        String savedBy,
        List<ProblemView> problems,
        @Nullable RunLine lastRun) {}
