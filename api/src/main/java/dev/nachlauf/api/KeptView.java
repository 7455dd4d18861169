package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What an installation keeps, and until when.
 *
 * @param lines one for each kind of thing
 */
public record KeptView(List<KeptLine> lines) {
    /**
     * A kind of thing.
     *
     * @param what files, uploads, ledgers, rejects or scratch
     * @param count how many: files, runs, rejects, folders
     * @param bytes on disk, in the database as it says
     * @param oldest since when the oldest is kept; null where there is none
     * @param keptForDays how long they are kept; null for as long as something needs them
     */
    public record KeptLine(
            String what,
            long count,
            long bytes,
            @Nullable Instant oldest,
            @Nullable Long keptForDays) {}
}
