package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.Turn;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Replacing;
import dev.nachlauf.core.job.Step;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Result;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Plans the writes one after the other; each adds its results to what those below it can see. */
final class WritePlanner {
    private final List<SourceColumn> columns;
    private final JobDefinition job;
    private final Described described;
    private final List<Problem> problems;
    /** Slots from here on hold results of writes. */
    private final int firstResult;

    private RowScope scope;
    /** The write that was planned last; null where none was. */
    private @Nullable PlannedWrite before;

    WritePlanner(
            RowScope scope,
            List<SourceColumn> columns,
            JobDefinition job,
            Described described,
            List<Problem> problems) {
        this.scope = scope;
        this.firstResult = scope.slots();
        this.columns = columns;
        this.job = job;
        this.described = described;
        this.problems = problems;
    }

    RowScope scope() {
        return scope;
    }

    /**
     * The write; empty where its target can't be looked at.
     *
     * @param below the names that are made further down
     */
    Optional<PlannedWrite> plan(Write write, Set<String> below) {
        scope = scope.above(below);
        return description(write).map(target -> {
            PlannedWrite planned = plan(write, target);
            before = planned;
            return planned;
        });
    }

    private Optional<RecordDescription> description(Write write) {
        return write.issue().isEmpty()
                ? described.of(write.connection(), write.records(), true, problems)
                : write.issue()
                        .flatMap(issue -> described
                                .issued(write.connection(), write.records(), issue, problems)
                                .map(file -> new IssuePlanner(scope, write, issue, problems).description(file)));
    }

    private PlannedWrite plan(Write write, RecordDescription target) {
        Optional<Formula> when = write.when().flatMap(formula -> scope.check(formula, Kind.BOOLEAN, problems));
        write.once().ifPresent(this::requireGroup);
        OutputPlanner map = new OutputPlanner(scope, columns, write, target, described, problems);
        List<Output> outputs = write.turn() == Turn.SECOND ? keepingTheOtherKey(map.outputs()) : map.outputs();
        Set<String> mapped = map.mapped();
        if (write.action().inserts()) {
            required(write, target, mapped);
        }
        List<Integer> key = key(write, outputs, mapped, target);
        // nothing that is issued is ever found again
        boolean unique = write.issue().isPresent() || target.isUnique(names(write.key()));
        KeyWarnings warnings = new KeyWarnings(write, target, problems);
        if (!unique) {
            warnings.notUnique();
        }
        warnings.sensitive();
        if (write.turn() == Turn.FIRST) {
            requireOwnKey(write, outputs, key);
        }
        List<Result> results = shared(write, target, mapped, outputs);
        return new PlannedWrite(
                // what has no name of its own is called by its records, whichever a parameter says
                write.name().equals(write.records().value()) ? target.name() : write.name(),
                write.connection().value(),
                write.action(),
                target,
                outputs,
                key,
                unique,
                when,
                write.once().isPresent(),
                write.skipsUnmet(),
                write.replacing().map(replacing -> removal(write, replacing, target, mapped, outputs)),
                write.issue(),
                results,
                isLate(when, outputs) || write.once().isPresent() && Step.Group.leadersChange(job.steps()),
                write.turn());
    }

    /** Whether it uses results of an earlier write. */
    private boolean isLate(Optional<Formula> when, List<Output> outputs) {
        return outputs.stream()
                        .flatMap(output -> output.source().slots().stream())
                        .anyMatch(this::isResult)
                || when.stream().flatMap(formula -> formula.slots().stream()).anyMatch(this::isResult);
    }

    /** What later writes see of it; the second of two writes over one map shows the same as the first. */
    private List<Result> shared(Write write, RecordDescription target, Set<String> mapped, List<Output> outputs) {
        if (write.turn() == Turn.SECOND && before != null) {
            return before.results();
        }
        return write == job.writes().getLast() ? List.of() : results(write, target, mapped, outputs);
    }

    /** A record that is found without its key keeps what it has of it. */
    private List<Output> keepingTheOtherKey(List<Output> outputs) {
        List<String> other = before == null ? List.of() : before.keyNames();
        return outputs.stream()
                .map(output -> other.contains(output.description().name())
                        ? new Output(output.description(), output.source(), output.fromText(), output.rule(), true)
                        : output)
                .toList();
    }

    /** Whether a part is empty has to be known before any target is asked. */
    private void requireOwnKey(Write write, List<Output> outputs, List<Integer> key) {
        for (int field : key) {
            Output part = outputs.get(field);
            boolean own = part.source() instanceof Source.Of of
                    && of.formula().slots().stream().noneMatch(this::isResult);
            if (!own) {
                add(
                        write.records(),
                        ProblemCode.MAP_UNFIT,
                        part.description().name()
                                + " is found in another record, so nobody can tell beforehand whether the second key is to be tried.",
                        "Bring it with a lookup step, which is carried out before the writes.");
            }
        }
    }

    private Removal removal(
            Write write, Replacing replacing, RecordDescription target, Set<String> mapped, List<Output> outputs) {
        if (job.read().changedSince().isPresent() || job.read().keys().isPresent()) {
            add(
                    write.records(),
                    ProblemCode.REPLACE_UNFIT,
                    "The job reads only a part of the source, so it can't be told what the source no longer has.",
                    "Let it upsert, or read all records.");
        }
        return new RemovalPlanner(write, replacing, target, mapped, outputs, scope.surroundings(), problems).planned();
    }

    private boolean isResult(int slot) {
        return slot >= firstResult;
    }

    private void requireGroup(Placed<String> name) {
        List<String> groups = job.steps().stream()
                .filter(Step.Group.class::isInstance)
                .map(step -> ((Step.Group) step).name().value())
                .toList();
        if (!groups.contains(name.value())) {
            add(
                    name,
                    ProblemCode.GROUP_UNKNOWN,
                    "No step makes a group " + name.value() + ".",
                    NearestNames.suggestion(
                            name.value(), groups, "Add - group: " + name.value() + " with by: to the steps."));
        }
    }

    /** Later writes see the written fields and the id of the record as {@code name.field}. */
    private List<Result> results(Write write, RecordDescription target, Set<String> mapped, List<Output> outputs) {
        List<Result> results = new ArrayList<>();
        for (int i = 0; i < outputs.size(); i++) {
            FieldDescription field = outputs.get(i).description();
            results.add(result(i, write.name(), field));
        }
        target.primaryKey()
                .filter(id -> id.fields().size() == 1)
                .flatMap(id -> target.field(id.fields().getFirst()))
                .filter(id -> outputs.stream()
                        .noneMatch(output -> output.description().equals(id)))
                .ifPresent(id -> results.add(result(-1, write.name(), id)));
        // after a problem the name is there all the same, so that later writes don't complain about it
        List<String> sound =
                outputs.stream().map(output -> output.description().name()).toList();
        mapped.stream()
                .filter(name -> !sound.contains(name))
                .flatMap(name -> target.field(name).stream())
                .forEach(field -> result(-1, write.name(), field));
        return results;
    }

    private Result result(int index, String write, FieldDescription field) {
        Result result = new Result(index, scope.slots());
        scope = scope.with(new Field(write + "." + field.name(), field.kind()));
        return result;
    }

    /** For inserts all required fields have to be mapped. */
    private void required(Write write, RecordDescription target, Set<String> mapped) {
        for (FieldDescription field : target.fields()) {
            if (field.required() && !mapped.contains(field.name())) {
                String required = "The field " + field.name() + " of " + target.name() + " is required, but ";
                add(
                        write.records(),
                        ProblemCode.TARGET_FIELD_REQUIRED,
                        required
                                + (field.readOnly()
                                        ? "can't be written: " + field.traits().closed() + "."
                                        : "not mapped."),
                        field.readOnly()
                                ? "New records can't be inserted so; action: update leaves them out."
                                : "Map it: new records can't be inserted without it.");
            }
        }
    }

    private List<Integer> key(Write write, List<Output> outputs, Set<String> mapped, RecordDescription target) {
        List<String> written =
                outputs.stream().map(output -> output.description().name()).toList();
        List<Integer> key = new ArrayList<>();
        for (Placed<String> field : write.key()) {
            int index = written.indexOf(field.value());
            if (index >= 0) {
                key.add(index);
            } else if (!mapped.contains(field.value())) {
                boolean known = target.field(field.value()).isPresent();
                add(
                        field,
                        known ? ProblemCode.KEY_NOT_MAPPED : ProblemCode.TARGET_FIELD_UNKNOWN,
                        known
                                ? "The key's field " + field.value() + " is not mapped."
                                : target.name() + " has no field " + field.value() + ".",
                        known
                                ? "Give it a formula under map."
                                : NearestNames.suggestion(
                                        field.value(),
                                        mapped,
                                        write.issue().isPresent()
                                                ? "Its fields are those of the map: " + String.join(", ", mapped) + "."
                                                : KeyWarnings.unique(target)));
            }
        }
        return key;
    }

    private static List<String> names(List<Placed<String>> placed) {
        return placed.stream().map(Placed::value).toList();
    }

    private void add(Placed<String> at, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(at.place(), code, sentence, remedy));
    }
}
