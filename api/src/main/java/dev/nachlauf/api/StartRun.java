package dev.nachlauf.api;

import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Starts a run.
 *
 * @param file the hash of an uploaded file, which takes the place of what the job reads; null for the job's own
 * @param fileName the file's name for people
 * @param parameters values of the job's parameters; those left out have their defaults
 * @param mode {@code write}, {@code dry-run} (plan everything, write nothing) or {@code hold} (plan everything, wait for a
 *     person, then write what was reviewed); null for {@code write}
 */
public record StartRun(
        String job,
        @Nullable String file,
        @Nullable String fileName,
        @Nullable Map<String, String> parameters,
        @Nullable String mode) {}
