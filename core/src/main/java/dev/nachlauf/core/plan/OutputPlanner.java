package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.Mapping;
import dev.nachlauf.core.job.JobDefinition.Turn;
import dev.nachlauf.core.job.JobDefinition.Value;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Plans what a write's map gives the fields of its target. */
final class OutputPlanner {
    private final RowScope scope;
    private final List<SourceColumn> columns;
    private final Write write;
    private final RecordDescription target;
    private final Described described;
    private final List<Problem> problems;
    private final List<Output> outputs = new ArrayList<>();
    private final Set<String> mapped = new TreeSet<>();

    OutputPlanner(
            RowScope scope,
            List<SourceColumn> columns,
            Write write,
            RecordDescription target,
            Described described,
            List<Problem> problems) {
        this.scope = scope;
        this.columns = columns;
        this.write = write;
        this.target = target;
        this.described = described;
        this.problems = problems;
        for (Mapping line : write.map()) {
            if (!line.off()) {
                mapped.add(line.field().value());
            }
            output(line).filter(output -> !line.off()).ifPresent(outputs::add);
        }
        if (write.sameNames()) {
            sameNames();
        }
        if (write.action() == Action.DELETE) {
            keepTheRest();
        }
    }

    List<Output> outputs() {
        return outputs;
    }

    /** The fields that the map names, also where something is wrong with their lines. */
    Set<String> mapped() {
        return mapped;
    }

    private Optional<Output> output(Mapping line) {
        String name = line.field().value();
        Optional<FieldDescription> field = target.field(name);
        Optional<Source> source = switch (line.value()) {
            case Value.Of of ->
                scope.checkFor(of.formula(), field.map(FieldDescription::kind).orElse(Kind.TEXT), problems)
                        .map(Source.Of::new);
            case Value.Reference reference -> reference(reference);
        };
        if (field.isEmpty()) {
            List<String> known =
                    target.fields().stream().map(FieldDescription::name).toList();
            add(
                    line.field(),
                    ProblemCode.TARGET_FIELD_UNKNOWN,
                    target.name() + " has no field " + name + ".",
                    NearestNames.suggestion(name, known, "Fields: " + String.join(", ", known) + "."));
            return Optional.empty();
        }
        return mayStand(line, field.get())
                ? source.flatMap(sound -> output(unlessFixed(line, field.get()), sound, field.get()))
                : Optional.empty();
    }

    private boolean isKey(String field) {
        return write.key().stream().map(Placed::value).anyMatch(field::equals);
    }

    /** Whether a field of the target may stand in the map of such a write. */
    private boolean mayStand(Mapping line, FieldDescription field) {
        boolean key = isKey(field.name());
        if (write.action() == Action.DELETE && write.turn() == Turn.ALONE && !key) {
            add(
                    line.field(),
                    ProblemCode.MAP_UNFIT,
                    "The field " + field.name() + " is not part of the key, and a record is removed whole.",
                    "Map only the key.");
            return false;
        }
        // a record may be found by what nobody can write
        if (field.readOnly() && (write.action().inserts() || !key)) {
            add(
                    line.field(),
                    ProblemCode.TARGET_FIELD_READ_ONLY,
                    "The field " + field.name() + " can't be written: "
                            + field.traits().closed() + ".",
                    "Take it out of the map.");
            return false;
        }
        if (line.rule() != WriteRule.ALWAYS && key) {
            add(
                    line.field(),
                    ProblemCode.VALUE_WRONG_KIND,
                    "The key's field " + field.name() + " can't be written "
                            + line.rule().word() + ".",
                    "The record is found by it, so it is always the same.");
        }
        return true;
    }

    /** What is fixed once a record is there is written when it is made, and left alone then. */
    private Mapping unlessFixed(Mapping line, FieldDescription field) {
        if (field.traits().onChange() || isKey(field.name()) || line.rule() == WriteRule.ON_INSERT) {
            return line;
        }
        add(
                line.field(),
                ProblemCode.TARGET_FIELD_FIXED,
                "The field " + field.name() + " is fixed once a record is there; other values are left alone then.",
                "Say write: on-insert.");
        return new Mapping(line.field(), line.value(), WriteRule.ON_INSERT, line.leaveBlank(), line.off());
    }

    private Optional<Source> reference(Value.Reference reference) {
        return described
                .of(write.connection(), reference.records(), false, problems)
                .flatMap(parent -> {
                    List<Placed<String>> bring = reference
                            .bring()
                            .or(() -> parent.primaryKey()
                                    .filter(id -> id.fields().size() == 1)
                                    .map(id -> new Placed<>(
                                            id.fields().getFirst(),
                                            reference.records().place())))
                            .map(List::of)
                            .orElse(List.of());
                    if (bring.isEmpty()) {
                        add(
                                reference.records(),
                                ProblemCode.KEY_MISSING,
                                parent.name() + " has no id of one field.",
                                "Say with bring which of its fields is meant.");
                        return Optional.<Finding>empty();
                    }
                    return FindingPlanner.finding(
                            scope,
                            new Among.Records(write.connection(), reference.records()),
                            parent,
                            reference.by(),
                            bring,
                            problems);
                })
                .map(Source.Found::new);
    }

    private Optional<Output> output(Mapping line, Source source, FieldDescription field) {
        if (!(source instanceof Source.Of of) || !(line.value() instanceof Value.Of written)) {
            return Optional.of(new Output(field, source, false, line.rule(), line.leaveBlank()));
        }
        Formula formula = of.formula();
        Kind kind = formula.kind().orElse(field.kind());
        if (kind == field.kind() || kind == Kind.INTEGER && field.kind() == Kind.DECIMAL) {
            return Optional.of(new Output(field, source, false, line.rule(), line.leaveBlank()));
        }
        if (kind == Kind.TEXT) {
            ask(written.formula(), formula, field);
            return Optional.of(new Output(field, source, true, line.rule(), line.leaveBlank()));
        }
        problems.add(Problem.at(
                written.formula().place(),
                ProblemCode.TYPE_MISMATCH,
                "This is " + kind.word() + ", but the field " + field.name() + " is "
                        + field.kind().word() + " (" + field.typeName() + ").",
                "cast(… as " + field.kind().word() + ") converts where that is meant."));
        return Optional.empty();
    }

    /** A column that can be read in two ways is not guessed where the field needs one of them. */
    private void ask(FormulaSource source, Formula formula, FieldDescription field) {
        if (formula.slots().size() != 1 || formula.slots().getFirst() >= columns.size()) {
            return;
        }
        SourceColumn column = columns.get(formula.slots().getFirst());
        if (!column.question().isEmpty()) {
            problems.add(Problem.at(
                    source.place(),
                    ProblemCode.SOURCE_AMBIGUOUS,
                    "The field " + field.name() + " is " + field.kind().word() + ", and the source leaves open how "
                            + column.name() + " is meant: " + column.question(),
                    "Say it under read, fields: " + column.name() + "."));
        }
    }

    /** Every field of the target that is named like one above, and can be written. */
    private void sameNames() {
        for (FieldDescription field : target.fields()) {
            boolean free = !field.readOnly()
                    && !mapped.contains(field.name())
                    && !write.except().contains(field.name())
                    && scope.find(field.name()).isPresent();
            if (free) {
                String name = '"'
                        + scope.find(field.name()).orElseThrow().field().name().replace("\"", "\"\"")
                        + '"';
                Mapping line = new Mapping(
                        new Placed<>(field.name(), write.records().place()),
                        new Value.Of(FormulaSource.of(name)),
                        WriteRule.ALWAYS,
                        false,
                        false);
                output(line).ifPresent(outputs::add);
                mapped.add(field.name());
            }
        }
    }

    /** What a removed record held beside its key is known to the ledger, so that it can come back. */
    private void keepTheRest() {
        target.fields().stream()
                .filter(field -> !field.readOnly() && !mapped.contains(field.name()))
                .map(field -> new Output(field, new Source.Kept(), false, WriteRule.ALWAYS, false))
                .forEach(outputs::add);
    }

    private void add(Placed<String> at, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(at.place(), code, sentence, remedy));
    }
}
