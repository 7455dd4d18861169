package dev.nachlauf.core.profile;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Values;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Reads a source once and counts. A sample of it tells beforehand how fields are read. */
public final class Profiler {
    private static final KeyTally.Visitor NOBODY = parts -> {};

    private Profiler() {}

    /**
     * Profiles a source, and searches keys in it.
     *
     * @param source opens the source at its start
     * @param scratch a folder for what spills to disk
     * @throws CannotGoOn where the source can't be opened
     */
    public static Profile profile(Supplier<SourceReader> source, Path scratch) {
        Sample sample = sample(source);
        return profile(source, sample, KeySearch.candidates(sample), scratch);
    }

    /**
     * Profiles a source.
     *
     * @param source opens the source at its start
     * @param keys sets of fields whose uniqueness is asked for
     * @param scratch a folder for what spills to disk
     * @throws CannotGoOn where the source can't be opened, or a key names an unknown field
     */
    public static Profile profile(Supplier<SourceReader> source, List<List<String>> keys, Path scratch) {
        return profile(source, sample(source), keys, scratch);
    }

    private static Sample sample(Supplier<SourceReader> source) {
        try (SourceReader reader = source.get()) {
            return Sample.take(reader);
        }
    }

    private static Profile profile(
            Supplier<SourceReader> source, Sample sample, List<List<String>> keys, Path scratch) {
        List<int[]> columns =
                keys.stream().map(key -> columns(sample.fields(), key)).toList();
        List<KeyTally> tallies = keys.stream().map(key -> new KeyTally(scratch)).toList();
        try (SourceReader reader = source.get();
                WholeRows whole = new WholeRows(scratch)) {
            return new Count(sample, columns, tallies, whole).count(reader, keys);
        } finally {
            tallies.forEach(KeyTally::close);
        }
    }

    /** The columns of some fields. */
    static int[] columns(List<SourceField> fields, List<String> names) {
        List<String> known = fields.stream().map(SourceField::name).toList();
        return names.stream()
                .mapToInt(name -> {
                    int column = known.indexOf(name);
                    if (column < 0) {
                        throw new CannotGoOn(Problem.of(
                                ProblemCode.FIELD_UNKNOWN,
                                "The source has no field " + name + ".",
                                NearestNames.suggestion(name, known, "Fields: " + String.join(", ", known) + ".")));
                    }
                    return column;
                })
                .toArray();
    }

    /** The parts of a row's key as texts; null where one is blank. */
    static @Nullable String[] key(SourceRow row, int[] columns) {
        @Nullable String[] parts = new String[columns.length];
        for (int i = 0; i < columns.length; i++) {
            String text = Values.text(row.cell(columns[i]));
            parts[i] = text == null || text.isBlank() ? null : text;
        }
        return parts;
    }

    private static final class Count {
        private final Sample sample;
        private final List<int[]> columns;
        private final List<KeyTally> keys;
        private final List<FieldTally> fields = new ArrayList<>();
        private final SwapCheck swaps;
        private final WholeRows whole;
        private long rows;
        private long broken;

        Count(Sample sample, List<int[]> columns, List<KeyTally> keys, WholeRows whole) {
            this.whole = whole;
            this.sample = sample;
            this.columns = columns;
            this.keys = keys;
            this.swaps = new SwapCheck(sample);
            for (int i = 0; i < sample.fields().size(); i++) {
                fields.add(
                        new FieldTally(sample.fields().get(i), sample.guesses().get(i)));
            }
        }

        Profile count(SourceReader reader, List<List<String>> names) {
            List<Problem> failures = List.of();
            try {
                for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                    rows++;
                    if (row.problems().isEmpty()) {
                        add(row);
                    } else {
                        broken++;
                    }
                }
            } catch (CannotGoOn e) {
                failures = e.problems();
            }
            List<KeyFigures> figures = new ArrayList<>();
            for (int i = 0; i < keys.size(); i++) {
                figures.add(keys.get(i).figures(names.get(i), NOBODY));
            }
            List<FieldProfile> profiles =
                    fields.stream().map(FieldTally::profile).toList();
            return new Profile(sample.options(), rows, broken, profiles, remarks(profiles), figures, failures);
        }

        private void add(SourceRow row) {
            String[] shapes = new String[fields.size()];
            for (int i = 0; i < shapes.length; i++) {
                shapes[i] = fields.get(i).add(row.cell(i), row.origin());
            }
            swaps.add(row, shapes);
            whole.add(row);
            for (int i = 0; i < keys.size(); i++) {
                keys.get(i).add(key(row, columns.get(i)), row.number());
            }
        }

        private List<Profile.Remark> remarks(List<FieldProfile> profiles) {
            List<Profile.Remark> remarks = new ArrayList<>(equal());
            for (FieldProfile profile : profiles) {
                profile.constant()
                        .ifPresent(value -> remarks.add(new Profile.Remark(
                                Profile.Remark.CONSTANT,
                                List.of(profile.field().name()),
                                profile.field().name() + " is " + Values.shortened(value) + " in every row.")));
            }
            remarks.addAll(swaps.remarks());
            whole.remark().ifPresent(remarks::add);
            return remarks;
        }

        private List<Profile.Remark> equal() {
            Map<Long, List<String>> alike = new LinkedHashMap<>();
            for (FieldTally field : fields) {
                if (field.filled() > 0) {
                    alike.computeIfAbsent(field.sameness(), key -> new ArrayList<>())
                            .add(field.name());
                }
            }
            return alike.values().stream()
                    .filter(names -> names.size() > 1)
                    .map(names -> new Profile.Remark(
                            Profile.Remark.EQUAL, names, String.join(" and ", names) + " hold the same in every row."))
                    .toList();
        }
    }
}
