package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;

/**
 * A connection. The document names secrets by reference only.
 *
 * @param abilities what it can do: {@code files} (it holds files that are fetched), {@code records} (it holds records that
 *     are read), {@code writing} (it can be written to), {@code telling} (it tells people what has happened)
 */
public record ConnectionView(
        String name,
        String title,
        String type,
        List<String> abilities,
        String document,
        Instant savedAt,
        String savedBy) {}
