package dev.nachlauf.api;

import dev.nachlauf.api.LedgerRowView.FieldChange;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What became of a record, newest first.
 *
 * @param next where the next page begins; null on the last one
 * @param note what was not searched, and why; empty where everything was
 */
public record RecordHistoryView(
        List<Change> items, @Nullable String next, String note) {
    /**
     * One change.
     *
     * @param mode what the run was for: write, hold or undo
     * @param undoes the run that it took back; null of others
     * @param at when the run ended
     * @param row the row of its source
     * @param id the record's id in the target
     */
    public record Change(
            long run,
            String job,
            int jobVersion,
            String mode,
            @Nullable Long undoes,
            String by,
            Instant at,
            String write,
            String source,
            long row,
            String outcome,
            List<String> key,
            @Nullable String id,
            List<FieldChange> changes) {}
}
