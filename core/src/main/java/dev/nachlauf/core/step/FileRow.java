package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.PlannedStep.FileField;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The values of a row of a file in which records are looked up: its columns, and what the lookup makes of them. */
final class FileRow {
    private final List<SourceColumn> columns;
    private final List<TextParser> parsers;
    private final List<FileField> made;
    /** Where the values stand; a field that is made takes the place of a column of its name. */
    private final Map<String, Integer> slots = new LinkedHashMap<>();
    /** Columns that are wanted or that a formula reads: what stands in the others need not be readable. */
    private final boolean[] read;

    FileRow(FileRecords.Wanted wanted, List<SourceColumn> columns) {
        this.columns = columns;
        this.made = wanted.made();
        this.parsers = columns.stream().map(column -> column.reading().parser()).toList();
        for (SourceColumn column : columns) {
            slots.putIfAbsent(column.name(), slots.size());
        }
        for (int i = 0; i < made.size(); i++) {
            slots.put(made.get(i).name(), columns.size() + i);
        }
        this.read = new boolean[columns.size() + made.size()];
        wanted.key().forEach(this::require);
        wanted.fields().forEach(this::require);
        made.forEach(field -> field.formula().slots().forEach(slot -> read[slot] = true));
    }

    private void require(String field) {
        Integer slot = slots.get(field);
        if (slot == null) {
            throw new IllegalArgumentException("the file has no field " + field);
        }
        read[slot] = true;
    }

    /** A value that can't be read or made. */
    static final class Unreadable extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Unreadable(String field, Problem problem) {
            super(field + ": " + problem.sentence(), null, false, false);
        }
    }

    /** All values of a row. */
    @Nullable
    Object[] values(SourceRow row) {
        @Nullable Object[] values = new Object[columns.size() + made.size()];
        for (int i = 0; i < values.length; i++) {
            String name = i < columns.size()
                    ? columns.get(i).name()
                    : made.get(i - columns.size()).name();
            try {
                if (i >= columns.size()) {
                    values[i] =
                            made.get(i - columns.size()).formula().evaluator().evaluate(values);
                } else if (read[i]) {
                    Object cell = row.cells()[i];
                    Reading reading = columns.get(i).reading();
                    values[i] = Reading.readOrEmpty("".equals(cell) ? null : cell, reading.kind(), parsers.get(i));
                }
            } catch (ValueProblem problem) {
                throw new Unreadable(name, problem.inField(name));
            }
        }
        return values;
    }

    /** Some of the values by name. */
    List<@Nullable Object> of(List<String> names, @Nullable Object[] values) {
        List<@Nullable Object> wanted = new ArrayList<>(names.size());
        for (String name : names) {
            wanted.add(values[slots.getOrDefault(name, 0)]);
        }
        return wanted;
    }
}
