package dev.nachlauf.service.record;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.KeyIndex;
import dev.nachlauf.core.system.ComparesKeys;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.service.job.JobSystems;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.BiPredicate;
import org.jspecify.annotations.Nullable;

/**
 * The keys of one record, as jobs name it: the one that somebody asks by, and those that other jobs use. The target knows
 * the others, and which keys are equal; without it only what is spelled the same is found.
 */
final class SoughtKeys implements AutoCloseable {
    private final String connection;
    private final String records;
    private final Map<String, String> asked;
    private @Nullable Writes system;
    private @Nullable RecordDescription description;
    private final List<Target> targets = new ArrayList<>();
    private String note = "";

    SoughtKeys(JobSystems systems, String connection, String records, Map<String, String> asked) {
        this.connection = connection;
        this.records = records;
        this.asked = asked;
        try {
            system = systems.target(connection);
            description = system.describe(records).orElse(null);
        } catch (CannotGoOn e) {
            if (e.problems().getFirst().code() == ProblemCode.CONNECTION_UNKNOWN) {
                throw e;
            }
            note = e.problems().getFirst().sentence() + " Runs that name the record by another key are not searched.";
        }
    }

    /** Of records that no run has changed it is worth knowing that there are none. */
    void requireRecords() {
        if (system != null && description == null) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.RECORDS_UNKNOWN,
                    "The connection " + connection + " has no record type " + records + ".",
                    "connection records " + connection + " lists them."));
        }
    }

    /** What was not searched; empty where everything was. */
    String note() {
        return note;
    }

    /** The keys to look for, as far as they are known. */
    List<SoughtKey> all(List<List<String>> fields) {
        List<SoughtKey> keys = new ArrayList<>();
        for (List<String> one : fields) {
            of(one).ifPresent(keys::add);
        }
        if (keys.isEmpty() && fields.stream().noneMatch(one -> asked.keySet().containsAll(one))) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.NOT_FOUND,
                    "No run has named " + connection + " " + records + " by " + String.join(" + ", asked.keySet())
                            + ", and no such record is there now.",
                    "Runs have named it by "
                            + String.join(
                                    ", or by ",
                                    fields.stream()
                                            .map(one -> String.join(" + ", one))
                                            .toList())
                            + "."));
        }
        return keys;
    }

    private Optional<SoughtKey> of(List<String> fields) {
        if (new HashSet<>(fields).equals(asked.keySet())) {
            List<Object> values = fields.stream().map(this::typed).toList();
            return Optional.of(new SoughtKey(fields, values, alike(fields)));
        }
        return lookedUp(fields).map(values -> new SoughtKey(fields, values, alike(fields)));
    }

    /** The value of a field of the asked key. */
    private Object typed(String field) {
        String text = Objects.requireNonNull(asked.get(field));
        Optional<FieldDescription> known = Optional.ofNullable(description).flatMap(type -> type.field(field));
        if (known.isEmpty()) {
            return text;
        }
        try {
            return TextParser.of(known.get().kind(), null, null).parse(text);
        } catch (ValueProblem e) {
            throw new CannotGoOn(e.inField(field));
        }
    }

    /** The values of other key fields of the record that has the asked key now. */
    private Optional<List<Object>> lookedUp(List<String> wanted) {
        if (!(system instanceof LooksUp looks)
                || description == null
                || asked.keySet().stream()
                        .anyMatch(field -> description.field(field).isEmpty())) {
            return Optional.empty();
        }
        List<String> by = List.copyOf(asked.keySet());
        Object[] key = by.stream().map(this::typed).toArray();
        LooksUp.Match match =
                looks.lookUp(records, by, wanted, List.<Object[]>of(key)).getFirst();
        boolean whole = match.count() == 1 && Arrays.stream(match.values()).allMatch(Objects::nonNull);
        return whole ? Optional.of(Arrays.asList(match.values())) : Optional.empty();
    }

    /** Whether the target takes two keys for one. It is asked only where both have the same bits. */
    private BiPredicate<List<Object>, List<Object>> alike(List<String> fields) {
        if (system == null || description == null) {
            return (one, other) -> false;
        }
        Target target = system.target(description, new TargetUse(fields, fields));
        targets.add(target);
        return (one, other) -> {
            if (!(target instanceof ComparesKeys compares)
                    || !compares.hasOwnEquality()
                    || KeyIndex.hash(one) != KeyIndex.hash(other)) {
                return false;
            }
            List<Long> classes = compares.classes(List.of(one.toArray(), other.toArray()));
            return classes.get(0) != ComparesKeys.NONE && classes.get(0).equals(classes.get(1));
        };
    }

    @Override
    public void close() {
        targets.forEach(Target::close);
    }
}
