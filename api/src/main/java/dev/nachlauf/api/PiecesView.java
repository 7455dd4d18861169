package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;

/**
 * A document of shared formulas and steps in its newest version.
 *
 * @param formulas their signatures
 * @param steps the names of its lists of steps
 */
public record PiecesView(
        String name,
        String title,
        int version,
        List<String> formulas,
        List<String> steps,
        String document,
        Instant savedAt,
        String savedBy) {}
