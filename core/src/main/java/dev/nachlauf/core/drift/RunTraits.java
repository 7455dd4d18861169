package dev.nachlauf.core.drift;

import java.util.List;

/**
 * What is typical of a run.
 *
 * @param rows rows of its source
 * @param columns in the order of the source; empty where they are not known
 * @param changes what became of the rows
 */
public record RunTraits(long rows, List<ColumnTraits> columns, Changes changes) {
    public RunTraits {
        columns = List.copyOf(columns);
    }

    /**
     * What became of the rows that came to the main write.
     *
     * @param taken how many came
     * @param inserted how many made a new record
     * @param updated how many changed one
     */
    public record Changes(long taken, long inserted, long updated) {}
}
