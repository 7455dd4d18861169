package dev.nachlauf.api;

import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Starts a run.
 *
 * @param file the hash of an uploaded file, which takes the place of what the job reads; null for the job's own
 * @param fileName the file's name for people
 * @param parameters values of the job's parameters; those left out have their defaults
 * @param mode {@code write}, {@code dry-run} (plan everything, write nothing), {@code rehearse} (send everything to a target
 *     that keeps nothing of it) or {@code hold} (plan everything, wait for a person, then write what was reviewed); null for
 *     {@code write}
 * @param rows the rows of the source that the run is about, such as {@code 1-10,15}, counted from 1 in reading order; null
 *     for all
 * @param where a formula over the fields of the source that is true for the rows that the run is about; null for all
 * @param first as many rows are written, then the run is held; null for all
 */
public record StartRun(
        String job,
        @Nullable String file,
        @Nullable String fileName,
        @Nullable Map<String, String> parameters,
        @Nullable String mode,
        @Nullable String rows,
        @Nullable String where,
        @Nullable Long first) {
    /** A run over all rows. */
    public StartRun(
            String job,
            @Nullable String file,
            @Nullable String fileName,
            @Nullable Map<String, String> parameters,
            @Nullable String mode) {
        this(job, file, fileName, parameters, mode, null, null, null);
    }
}
