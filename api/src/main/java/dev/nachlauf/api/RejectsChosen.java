package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Open rejects that somebody decides about: those with these ids, or those of a run.
 *
 * @param ids null for those of the run
 * @param where a formula over the cells as they stand in the source that has to be true; null for all of the run
 */
public record RejectsChosen(
        @Nullable List<Long> ids,
        @Nullable Long run,
        @Nullable String where) {}
