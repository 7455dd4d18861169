package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.Turn;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.TargetUse;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * A checked write.
 *
 * @param fields the target's fields that are written, in the order of the job's map
 * @param key which of {@code fields} form the external key
 * @param keyIsUnique whether the target itself keeps the key unique
 * @param oncePerGroup whether one row of a group, the first that goes on, stands for all of it
 * @param skipsUnmet whether a row whose record is already there for an insert, or not found for an update, is skipped
 * @param removal what becomes of records that the source no longer has; empty where they are left alone
 * @param issue how a file is written; empty for writes of records
 * @param results what later writes may use of it, each in its slot
 * @param late whether it can't be mapped before the batch is planned: it uses results of an earlier write, or the row
 *     that stands for its group is known only then
 * @param turn whether another write takes the rows whose key has an empty part
 */
public record PlannedWrite(
        String name,
        String connection,
        Action action,
        RecordDescription target,
        List<Output> fields,
        List<Integer> key,
        boolean keyIsUnique,
        Optional<Formula> when,
        boolean oncePerGroup,
        boolean skipsUnmet,
        Optional<Removal> removal,
        Optional<Issue> issue,
        List<Result> results,
        boolean late,
        Turn turn) {
    public PlannedWrite {
        fields = List.copyOf(fields);
        key = List.copyOf(key);
        results = List.copyOf(results);
    }

    /** A field of the target and what becomes of it. {@code fromText} reads the value's text where kinds differ. */
    public record Output(
            FieldDescription description, Source source, boolean fromText, WriteRule rule, boolean leaveBlank) {}

    /** Where a value comes from. */
    public sealed interface Source {
        record Of(Formula formula) implements Source {}

        /** A field of the record that is found when the row is written. */
        record Found(Finding finding) implements Source {}

        /** Nothing: the field is not written, but what it held is kept of a record that is removed. */
        record Kept() implements Source {}

        /** The slots that it reads. */
        default List<Integer> slots() {
            return switch (this) {
                case Of of -> of.formula().slots();
                case Found found ->
                    found.finding().keys().stream()
                            .flatMap(key -> key.formula().slots().stream())
                            .toList();
                case Kept ignored -> List.of();
            };
        }
    }

    /** A result. {@code field} is the index among the written fields, or -1 for the record's id. */
    public record Result(int field, int slot) {}

    /** The names of the written fields. */
    public List<String> fieldNames() {
        return fields.stream().map(output -> output.description().name()).toList();
    }

    /** The names of the key's fields. */
    public List<String> keyNames() {
        return key.stream().map(index -> fieldNames().get(index)).toList();
    }

    /** The written fields whose values are kept from those who look. */
    public List<String> sensitiveFields() {
        return fields.stream()
                .map(Output::description)
                .filter(FieldDescription::sensitive)
                .map(FieldDescription::name)
                .toList();
    }

    /** What a run does with the target. */
    public TargetUse use() {
        return new TargetUse(keyNames(), fieldNames(), action.inserts());
    }

    /** Whether it may change a sensitive value that a record holds already; what is new changes none. */
    public boolean mayChangeSensitive() {
        boolean changes = action == Action.UPSERT || action == Action.UPDATE || action == Action.REPLACE;
        return changes
                && IntStream.range(0, fields.size())
                        .filter(field -> !key.contains(field))
                        .mapToObj(fields::get)
                        .anyMatch(output -> output.description().sensitive() && output.rule() != WriteRule.ON_INSERT);
    }

    /** Whether it removes the records that its rows name. */
    public boolean deletes() {
        return action == Action.DELETE;
    }

    /** Whether a field of it is found in another record. */
    public boolean hasReferences() {
        return fields.stream().anyMatch(output -> output.source() instanceof Source.Found);
    }
}
