package dev.nachlauf.core.profile;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.value.Values;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Ranks candidate keys of a source against a target. For every combination that the target keeps unique it looks which
 * columns hold its values, as they are or in capitals without outer spaces, and then counts over the whole source what a
 * load with this key would do. Only the target's own index is asked, a set of keys at a time.
 */
public final class KeyAdvisor {
    private static final int SAMPLE = 500;
    private static final long FEW_RECORDS = 20_000;
    private static final double WORTH_A_LOOK = 0.05;

    private final Supplier<SourceReader> source;
    private final RecordDescription description;
    private final Writes system;
    private final Path scratch;
    private final Sample sample;

    private KeyAdvisor(
            Supplier<SourceReader> source, RecordDescription description, Writes system, Path scratch, Sample sample) {
        this.source = source;
        this.description = description;
        this.system = system;
        this.scratch = scratch;
        this.sample = sample;
    }

    /**
     * The candidates, best first.
     *
     * @param asked sets of columns that a person asks about; {@code column=field} names the target's field where it is
     *     called otherwise
     * @param source opens the source at its start
     * @param scratch a folder for what spills to disk
     */
    public static List<KeyAdvice> advise(
            Supplier<SourceReader> source,
            RecordDescription description,
            Writes system,
            List<List<String>> asked,
            Path scratch) {
        Sample sample;
        try (SourceReader reader = source.get()) {
            sample = Sample.take(reader);
        }
        return new KeyAdvisor(source, description, system, scratch, sample).advise(asked);
    }

    private List<KeyAdvice> advise(List<List<String>> asked) {
        List<KeyAdvice> advice = new ArrayList<>();
        Set<List<String>> seen = new LinkedHashSet<>();
        for (List<String> key : asked) {
            List<KeyPair> pairs = key.stream().map(this::asked).toList();
            List<String> fields =
                    pairs.stream().map(pair -> pair.field().name()).toList();
            if (!description.isUnique(fields) && !mayBeSearched()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.KEY_NOT_UNIQUE,
                        "Nothing in " + description.name() + " keeps " + String.join(" + ", fields)
                                + " unique, and it is too large to be searched for every key.",
                        "Ask for fields that it keeps unique."));
            }
            seen.add(fields);
            advice.add(count(pairs));
        }
        for (UniqueKey unique : description.uniqueKeys()) {
            if (seen.add(unique.fields()) && !isGenerated(unique)) {
                pairs(unique.fields()).ifPresent(pairs -> advice.add(count(pairs)));
            }
        }
        for (FieldDescription field : description.fields()) {
            if (mayBeSearched() && seen.add(List.of(field.name()))) {
                named(field)
                        .map(pair -> count(List.of(pair)))
                        .filter(counted -> counted.score() >= WORTH_A_LOOK)
                        .ifPresent(advice::add);
            }
        }
        advice.sort(Comparator.comparingDouble(KeyAdvice::score).reversed());
        return advice;
    }

    private KeyPair asked(String part) {
        String column = column(part);
        int index = Profiler.columns(sample.fields(), List.of(column))[0];
        String name = part.equals(column) ? column : part.substring(column.length() + 1);
        FieldDescription field = description.fields().stream()
                .filter(one -> one.name().equals(name) || essence(one.name()).equals(essence(name)))
                .findFirst()
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.TARGET_FIELD_UNKNOWN,
                        description.name() + " has no field like " + name + ".",
                        "Say which it is, as in " + column + "=field.")));
        try (Target target = system.target(description, use(List.of(field.name())))) {
            KeyPair plain = new KeyPair(index, field, false, 0, true);
            KeyPair capitals = new KeyPair(index, field, true, 0, true);
            boolean alone = description.isUnique(List.of(field.name()));
            return alone && found(target, capitals) > found(target, plain) ? capitals : plain;
        }
    }

    /** The column of {@code column=field}, or of a column alone. */
    public static String column(String part) {
        int end = part.lastIndexOf('=');
        return end < 0 ? part : part.substring(0, end).strip();
    }

    /** A number that the target gives by itself is known to no source. */
    private boolean isGenerated(UniqueKey unique) {
        return unique.fields().stream()
                .allMatch(name ->
                        description.field(name).map(FieldDescription::generated).orElse(false));
    }

    /**
     * A field without an index is asked for only where reading the whole table for it costs little. Where nobody knows how
     * large the table is, it is tried: no advice without a word would be worse.
     */
    private boolean mayBeSearched() {
        return system.recordTypes().stream()
                .filter(type -> type.name().equals(description.name()))
                .anyMatch(type -> type.estimatedRecords().orElse(0) <= FEW_RECORDS);
    }

    /** The column of the same name: what nothing keeps unique may well be ambiguous, and it is better to know. */
    private Optional<KeyPair> named(FieldDescription field) {
        for (int column = 0; column < sample.fields().size(); column++) {
            if (essence(sample.fields().get(column).name()).equals(essence(field.name()))) {
                return Optional.of(new KeyPair(column, field, false, 0, true));
            }
        }
        return Optional.empty();
    }

    /** For each field of a unique combination the column that holds most of its values. */
    private Optional<List<KeyPair>> pairs(List<String> fields) {
        List<KeyPair> pairs = new ArrayList<>();
        for (String name : fields) {
            Optional<FieldDescription> field = description.field(name);
            Optional<KeyPair> best = field.flatMap(found -> best(found, fields.size() == 1, pairs));
            if (best.isEmpty()) {
                return Optional.empty();
            }
            pairs.add(best.get());
        }
        return Optional.of(pairs);
    }

    private Optional<KeyPair> best(FieldDescription field, boolean alone, List<KeyPair> taken) {
        List<KeyPair> candidates = new ArrayList<>();
        try (Target target = system.target(description, use(List.of(field.name())))) {
            for (int column = 0; column < sample.fields().size(); column++) {
                int index = column;
                if (taken.stream().noneMatch(pair -> pair.column() == index)) {
                    candidates.addAll(candidates(target, field, column, alone));
                }
            }
        }
        return candidates.stream()
                .max(Comparator.comparing((KeyPair pair) -> pair.found() > 0)
                        .thenComparing(KeyPair::named)
                        .thenComparing(KeyPair::found)
                        .thenComparing(pair -> !pair.capitals()));
    }

    private List<KeyPair> candidates(Target target, FieldDescription field, int column, boolean alone) {
        boolean named = essence(sample.fields().get(column).name()).equals(essence(field.name()));
        KeyPair plain = new KeyPair(column, field, false, 0, named);
        KeyPair capitals = new KeyPair(column, field, true, 0, named);
        // one field of several is seldom indexed by itself: asking for its values could read the whole table
        long asItIs = alone ? found(target, plain) : 0;
        long inCapitals = alone ? found(target, capitals) : 0;
        List<KeyPair> pairs = new ArrayList<>();
        if (asItIs > 0 || named) {
            pairs.add(new KeyPair(column, field, false, asItIs, named));
        }
        if (inCapitals > asItIs) {
            pairs.add(new KeyPair(column, field, true, inCapitals, named));
        }
        return pairs;
    }

    private static String essence(String name) {
        return name.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]", "");
    }

    private long found(Target target, KeyPair pair) {
        Set<String> texts = new LinkedHashSet<>();
        for (SourceRow row : sample.rows()) {
            String text = row.problems().isEmpty() ? Values.text(row.cell(pair.column())) : null;
            if (text != null && !text.isBlank() && texts.size() < SAMPLE) {
                texts.add(pair.change().apply(text));
            }
        }
        List<Object[]> keys = new ArrayList<>();
        for (String text : texts) {
            Object value = pair.value(sample, text);
            if (value != null) {
                keys.add(new Object[] {value});
            }
        }
        if (keys.isEmpty()) {
            return 0;
        }
        return IntStream.of(Matches.of(target, keys))
                .filter(matches -> matches > 0)
                .count();
    }

    private static TargetUse use(List<String> fields) {
        return new TargetUse(fields, fields);
    }

    private KeyAdvice count(List<KeyPair> pairs) {
        List<String> fields = pairs.stream().map(pair -> pair.field().name()).toList();
        List<String> names = pairs.stream()
                .map(pair -> sample.fields().get(pair.column()).name())
                .toList();
        int[] columns = pairs.stream().mapToInt(KeyPair::column).toArray();
        long rows = 0;
        try (KeyTally keys = new KeyTally(scratch);
                SourceReader reader = source.get();
                Target target = system.target(description, use(fields))) {
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                rows++;
                if (row.problems().isEmpty()) {
                    keys.add(changed(Profiler.key(row, columns), pairs), row.number());
                }
            }
            KeyLookup lookup = new KeyLookup(target, fields, pairs, sample);
            KeyFigures figures = keys.figures(names, lookup::key);
            lookup.flush();
            return lookup.advice(names, description.isUnique(fields), rows, figures);
        }
    }

    private static @Nullable String[] changed(@Nullable String[] parts, List<KeyPair> pairs) {
        for (int i = 0; i < parts.length; i++) {
            String part = parts[i];
            parts[i] = part == null ? null : pairs.get(i).change().apply(part);
        }
        return parts;
    }
}
