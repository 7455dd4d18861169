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
 * @param maps what each write maps, in the order of the job; empty where the job has an error
 */
public record JobTrial(
        boolean sound,
        List<ProblemView> problems,
        @Nullable FileView source,
        List<String> columns,
        List<TrialRow> rows,
        List<WriteMap> maps) {

    /**
     * What a write maps.
     *
     * @param fields those that the job maps, in its order, then the target's others
     */
    public record WriteMap(String write, String connection, String records, List<MapLine> fields) {}

    /**
     * A field of a target.
     *
     * @param formula what it becomes; null where nothing is mapped
     * @param rule {@code always}, {@code if-empty} or {@code on-insert}; {@code off} where the line is kept without
     *     effect, empty where nothing is mapped
     * @param key whether records are found by it
     */
    public record MapLine(FieldView field, @Nullable String formula, String rule, boolean key) {}

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
     * @param broken whether it would be made of a value that is wrong
     */
    public record TrialField(String name, @Nullable String value, boolean key, boolean later, boolean broken) {}
}
