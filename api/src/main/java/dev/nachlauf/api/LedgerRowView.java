package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One line of the ledger.
 *
 * @param row the source row, from 1
 * @param write the name of the write that it tells of
 * @param source the file, and the sheet where there is one
 * @param line the line of the file or the row of the sheet on which it starts
 * @param note why it was skipped, or the codes of its problems and warnings
 * @param key the parts of its key; empty where it has none
 * @param id the record's id in the target; null where it has none, or will get it when it is written
 * @param leftOut whether a person has left the row out of a held run
 */
public record LedgerRowView(
        long row,
        String write,
        String source,
        long line,
        String outcome,
        String note,
        List<String> key,
        @Nullable String id,
        boolean leftOut,
        List<FieldChange> changes) {

    /** A field before and after, as text; null where it was or is empty. */
    public record FieldChange(
            String field, @Nullable String before, @Nullable String after) {}
}
