package dev.nachlauf.connectors.format.nested;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Reads nested records. Their fields are those of a sample and those that the job declares; a record that holds another
 * one later is rejected, or the field is left out where the job says so.
 */
public final class NestedReader implements SourceReader {
    /** The option about fields that the sample doesn't show. */
    public static final Setting OTHER_FIELDS = Setting.optional(
            "other-fields", "reject records with fields that the first ones don't have (the default), or leave-out");

    private static final long SAMPLE_VALUES = 200_000;

    private final String file;
    private final RecordSource records;
    private final List<SourceField> fields;
    private final Map<String, Integer> columns = new HashMap<>();
    private final List<Detected> options;
    private final boolean rejectOthers;
    private long number;

    private NestedReader(
            String file, RecordSource records, List<SourceField> fields, Set<String> repeated, FormatOptions stated) {
        this.file = file;
        this.records = records;
        this.fields = fields;
        this.options = new ArrayList<>(records.options());
        this.rejectOthers = stated.word(OTHER_FIELDS.name(), "reject", List.of("reject", "leave-out"))
                .equals("reject");
        if (!rejectOthers) {
            options.add(Detected.stated(OTHER_FIELDS.name(), "leave-out"));
        }
        if (!repeated.isEmpty()) {
            options.add(new Detected(
                    "left-out",
                    String.join(", ", repeated),
                    1,
                    "it stands several times in a record; a record path that ends there makes a row of each"));
        }
        for (SourceField field : fields) {
            columns.put(field.name(), columns.size());
        }
    }

    /** Reads a sample for the fields, then begins again. */
    public static NestedReader open(String file, Supplier<RecordSource> records, FormatOptions stated) {
        return open(file, repeated -> records.get(), stated);
    }

    /** The same for a format whose records may hold things several times: it is told which to leave out. */
    public static NestedReader open(String file, Function<Set<String>, RecordSource> records, FormatOptions stated) {
        Map<String, String> addresses = new LinkedHashMap<>();
        Set<String> repeated = new TreeSet<>();
        try (RecordSource sample = records.apply(Set.of())) {
            long values = 0;
            int rows = 0;
            FlatRecord record = sample.next();
            while (record != null && rows < Sample.ROWS && values < SAMPLE_VALUES) {
                values += record.values().size();
                rows++;
                record = sample.next();
            }
            if (rows == 0 && record == null && stated.fields().isEmpty()) {
                throw empty(file);
            }
            addresses.putAll(sample.addresses());
            repeated.addAll(sample.repeated());
        }
        addresses.keySet().removeIf(name -> isWithin(name, repeated));
        stated.fields().forEach(name -> addresses.putIfAbsent(name, "/" + name.replace('.', '/')));
        List<SourceField> fields = new ArrayList<>();
        addresses.forEach((name, address) -> fields.add(new SourceField(name, address)));
        return new NestedReader(file, records.apply(repeated), fields, repeated, stated);
    }

    /** Whether a name is one of some names or stands below one. */
    public static boolean isWithin(String name, Set<String> names) {
        for (int end = name.length(); end > 0; end = name.lastIndexOf('.', end - 1)) {
            if (names.contains(name.substring(0, end))) {
                return true;
            }
        }
        return false;
    }

    private static CannotGoOn empty(String file) {
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, 1),
                ProblemCode.FILE_EMPTY,
                "The file holds no records.",
                "Check record in the job: it picks what a row is."));
    }

    @Override
    public List<SourceField> fields() {
        return fields;
    }

    @Override
    public List<Detected> options() {
        return options;
    }

    @Override
    public @Nullable SourceRow next() {
        FlatRecord record = records.next();
        if (record == null) {
            return null;
        }
        number++;
        Origin origin = new Origin(file, "", record.line(), record.path());
        String raw = record.raw();
        if (raw != null) {
            return new SourceRow(number, origin, new Object[] {raw}, record.problems());
        }
        @Nullable Object[] cells = new Object[fields.size()];
        TreeSet<String> others = new TreeSet<>();
        record.values().forEach((name, value) -> {
            Integer column = columns.get(name);
            if (column == null) {
                others.add(name);
            } else {
                cells[column] = value;
            }
        });
        if (rejectOthers && !others.isEmpty()) {
            record.problems()
                    .add(Problem.of(
                            ProblemCode.ROW_RAGGED,
                            "The record has what the first ones don't have: " + String.join(", ", others) + ".",
                            "Declare it under read, fields, or say other-fields: leave-out."));
        }
        return new SourceRow(number, origin, cells, record.problems());
    }

    @Override
    public void close() {
        records.close();
    }
}
