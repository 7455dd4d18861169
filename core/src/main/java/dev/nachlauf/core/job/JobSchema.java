package dev.nachlauf.core.job;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Objects;

/**
 * The JSON Schema (draft 2020-12) of job files, for editors. It knows keys and words; formulas and names are checked by
 * {@link JobFile} and the planner.
 */
public final class JobSchema {
    private JobSchema() {}

    /** Its text. */
    public static String text() {
        try (InputStream in = Objects.requireNonNull(JobSchema.class.getResourceAsStream("job.schema.json"))) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
