package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a job would make of the first rows of its source. Nothing is written, and targets are not asked.
 *
 * @param sound whether the job has no error; {@code rows} is empty where it has one
 * @param source the file that was read, to be named by the next trial so that it need not be fetched again; null where
 *     none was read
 * @param columns of the source
 * @param rows behind the steps, in order: some of the source may be one here, or one may be several
 */
public record JobTrial(
        boolean sound,
        List<ProblemView> problems,
        @Nullable FileView source,
        List<String> columns,
        List<TrialRow> rows) {

    /**
     * A row.
     *
     * @param row its number in the source, from 1
     * @param place where it stands, for people
     * @param cells as they were read, in the order of the columns
     * @param outcome {@code passed}, {@code skipped} or {@code rejected}
     * @param note why it is skipped; empty where it isn't
     * @param records what each write makes of it; a write that doesn't take it is missing
     */
    public record TrialRow(
            long row,
            String place,
            List<@Nullable String> cells,
            String outcome,
            String note,
            List<ProblemView> problems,
            List<ProblemView> warnings,
            List<TrialRecord> records) {}

    /** A record as a write would send it: its fields in the order of the map, null where empty. */
    public record TrialRecord(String write, String records, List<TrialField> fields) {}

    /**
     * A field.
     *
     * @param key whether it belongs to the key
     * @param later whether its value is found only when the row is written
     */
    public record TrialField(String name, @Nullable String value, boolean key, boolean later) {}
}
