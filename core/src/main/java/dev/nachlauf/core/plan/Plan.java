package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import java.util.List;

/**
 * A checked job, ready to run.
 *
 * @param columns the source's columns
 * @param slots how many slots a row needs on its way
 * @param facts the first of three slots with the row's file, sheet and line
 * @param needsFacts whether a formula asks for one of them
 * @param inputs the columns that are read, each into its slot
 * @param fields the target's fields that are written, in the order of the job's map
 * @param key which of {@code fields} form the external key
 * @param keyIsUnique whether the target itself keeps the key unique
 */
public record Plan(
        JobDefinition job,
        List<SourceColumn> columns,
        int slots,
        int facts,
        boolean needsFacts,
        List<Input> inputs,
        List<PlannedStep> steps,
        List<Output> fields,
        List<Integer> key,
        RecordDescription target,
        boolean keyIsUnique) {
    public Plan {
        columns = List.copyOf(columns);
        inputs = List.copyOf(inputs);
        steps = List.copyOf(steps);
        fields = List.copyOf(fields);
        key = List.copyOf(key);
    }

    /** A column of the source and how its text is read. */
    public record Input(String name, int column, int slot, Kind kind, TextParser parser) {}

    /** A field of the target and the formula for it. {@code fromText} reads the formula's text where kinds differ. */
    public record Output(FieldDescription description, Formula formula, boolean fromText) {}

    /** A checked step. */
    public sealed interface PlannedStep {
        record Where(Formula formula) implements PlannedStep {}

        record Assign(String field, int slot, Formula formula) implements PlannedStep {}

        record Rule(Formula formula, String message) implements PlannedStep {}
    }

    /** The names of the written fields. */
    public List<String> fieldNames() {
        return fields.stream().map(output -> output.description().name()).toList();
    }

    /** The names of the key's fields. */
    public List<String> keyNames() {
        return key.stream().map(index -> fieldNames().get(index)).toList();
    }

    /** What a run of this plan does with its target. */
    public TargetUse use() {
        return new TargetUse(keyNames(), fieldNames());
    }
}
