package dev.nachlauf.service.run;

import dev.nachlauf.api.RunView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunBalance;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.run.UndoRun;
import dev.nachlauf.core.run.UndoRun.Undone;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.store.Json;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Runs that take back what another run has written. */
@Component
class RunUndoing {
    private final RunRepository runs;
    private final NewRuns begin;
    private final RunViews views;
    private final RunTransitions transitions;
    private final RunFacts facts;
    private final RunFence fence;
    private final Jobs jobs;
    private final JobPreparation preparation;
    private final RunPreparation jobOfRun;
    private final RunInput input;
    private final RunIssuing issuing;
    private final RunScratch scratch;
    private final LedgerOfRun ledger;
    private final TransactionTemplate transactions;
    private final NachlaufSettings settings;
    private final Clock clock;

    RunUndoing(
            RunRepository runs,
            NewRuns begin,
            RunViews views,
            RunTransitions transitions,
            RunFacts facts,
            RunFence fence,
            Jobs jobs,
            JobPreparation preparation,
            RunPreparation jobOfRun,
            RunInput input,
            RunIssuing issuing,
            RunScratch scratch,
            LedgerOfRun ledger,
            TransactionTemplate transactions,
            NachlaufSettings settings,
            Clock clock) {
        this.runs = runs;
        this.begin = begin;
        this.views = views;
        this.transitions = transitions;
        this.facts = facts;
        this.fence = fence;
        this.jobs = jobs;
        this.preparation = preparation;
        this.jobOfRun = jobOfRun;
        this.input = input;
        this.issuing = issuing;
        this.scratch = scratch;
        this.ledger = ledger;
        this.transactions = transactions;
        this.settings = settings;
        this.clock = clock;
    }

    /** Starts a run that undoes another, or says why there can be none. */
    RunView start(long id, dev.nachlauf.api.UndoRun request, String by) {
        RunEntity other = views.entity(id);
        requireUndoable(other);
        Map<String, String> key = Objects.requireNonNullElse(request.key(), Map.of());
        List<String> fields = Objects.requireNonNullElse(request.fields(), List.of());
        requireKnown(other, "key field", key.keySet(), Json.RunWrite::keyFields);
        requireKnown(other, "field", fields, Json.RunWrite::fields);
        RunEntity run = entity(other, by);
        run.undoKeys = key.isEmpty() ? null : key;
        run.undoFields = fields.isEmpty() ? null : fields;
        return views.of(begin.begin(run, number -> by + " asks for it: take run " + other.id + " back."));
    }

    private void requireUndoable(RunEntity run) {
        boolean over = RunState.of(run.state).filter(RunState::isFinal).isPresent();
        if (!over) {
            throw refused(run, "is " + run.state, "Wait until it has ended, or stop it.");
        }
        if (run.totals != null && run.totals.counts().issued() > 0) {
            throw refused(
                    run,
                    "has issued files, which nobody can ask back",
                    "Tell those who have them, and issue what is right.");
        }
        if (run.planning()
                || ledger.chunks(run.id, LedgerStage.WRITTEN).chunks().isEmpty()) {
            throw refused(run, "has written nothing", "");
        }
        if (transitions.isInDoubt(run.id)) {
            throw refused(
                    run, "has rows in doubt", "They are asked about until the target has said what became of them.");
        }
        runs.undoing(run.id)
                .map(views::entity)
                .filter(undo -> undo.state.equals("finished") && undo.undoKeys == null && undo.undoFields == null)
                .filter(undo -> runs.undoing(undo.id).isEmpty())
                .ifPresent(undo -> {
                    throw refused(run, "was undone by run " + undo.id, "Undo that run to have it back.");
                });
    }

    private static CannotGoOn refused(RunEntity run, String why, String remedy) {
        return new CannotGoOn(
                Problem.of(ProblemCode.RUN_STATE, "Run " + run.id + " can't be undone: it " + why + ".", remedy));
    }

    private interface Names {
        List<String> of(Json.RunWrite write);
    }

    private static void requireKnown(RunEntity run, String what, Iterable<String> asked, Names names) {
        Set<String> known = run.knownWrites().stream()
                .flatMap(write -> names.of(write).stream())
                .collect(Collectors.toSet());
        for (String name : asked) {
            if (!known.contains(name)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.TARGET_FIELD_UNKNOWN,
                        "Run " + run.id + " has written no " + what + " " + name + ".",
                        "It has: " + known.stream().sorted().collect(Collectors.joining(", ")) + "."));
            }
        }
    }

    private RunEntity entity(RunEntity other, String by) {
        Jobs.Version version = jobs.version(other.jobName, other.jobVersion);
        RunEntity run = WaitingRun.of(version, RunMode.UNDO, by, clock.instant(), settings.batchRows());
        run.environment = other.environment;
        run.undoes = other.id;
        run.fields = other.fields;
        run.keyFields = other.keyFields;
        run.targetConnection = other.targetConnection;
        run.targetRecords = other.targetRecords;
        run.writeName = other.writeName;
        run.sourceName = "run " + other.id;
        run.parameters = other.parameters;
        run.pins = other.pins;
        run.tells = other.tells;
        return run;
    }

    /** Notes what the run will write: what the other has written, and all else that a record has which is removed. */
    void gather(RunEntity run, long epoch) {
        RunEntity other = views.entity(Objects.requireNonNull(run.undoes));
        if (jobOfRun.addsToFiles(other.id)) {
            gatherFiles(run, other, epoch);
            return;
        }
        try (JobSystems systems = preparation.systems()) {
            // what was written last goes first
            run.writes = other.knownWrites().reversed().stream()
                    .map(write -> whole(write, systems))
                    .toList();
        }
        noted(run, epoch, Map.of());
    }

    /** Rows are taken out of the files as they are now, and these are kept with the run. */
    private void gatherFiles(RunEntity run, RunEntity other, long epoch) {
        try (PreparedJob job = jobOfRun.toUndo(other, run)) {
            job.plan();
            run.writes = other.knownWrites().reversed();
            noted(run, epoch, job.systems().added());
        }
    }

    private void noted(RunEntity run, long epoch, Map<String, List<SourcePart>> files) {
        Json.RunWrite main =
                run.writes.stream().filter(Json.RunWrite::main).findFirst().orElse(run.writes.getFirst());
        run.fields = main.fields();
        transactions.executeWithoutResult(status -> {
            fence.hold(run.id, epoch);
            input.save(run.id, List.of(), files);
            facts.gathered(run);
        });
    }

    private static Json.RunWrite whole(Json.RunWrite write, JobSystems systems) {
        String connection = write.connection();
        RecordDescription records = systems.target(connection)
                .describe(write.records())
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.TARGET_CHANGED,
                        connection + " has no records " + write.records() + " any more.",
                        "")));
        Set<String> own = new HashSet<>(write.fields());
        records.primaryKey().ifPresent(key -> own.addAll(key.fields()));
        List<FieldDescription> more = records.fields().stream()
                .filter(field -> !own.contains(field.name()) && !field.readOnly())
                .toList();
        List<String> sensitive = new ArrayList<>(write.sensitive());
        more.stream()
                .filter(FieldDescription::sensitive)
                .map(FieldDescription::name)
                .forEach(sensitive::add);
        return new Json.RunWrite(
                write.name(),
                connection,
                write.records(),
                Stream.concat(write.fields().stream(), more.stream().map(FieldDescription::name))
                        .toList(),
                write.keyFields(),
                write.main(),
                sensitive,
                List.of());
    }

    /** One attempt. Where sensitive values would change, it waits before it does anything. */
    RunResult carryOut(RunEntity run, RunRecords records, RunWatch watch) {
        RunEntity other = views.entity(Objects.requireNonNull(run.undoes));
        if (!jobOfRun.addsToFiles(other.id)) {
            try (JobSystems systems = preparation.systems()) {
                return carryOut(run, other, systems::target, records, watch);
            }
        }
        Path folder = scratch.prepare(run.id, watch.epoch(), OptionalLong.empty());
        try (PreparedJob job = jobOfRun.toUndo(other, run)) {
            RunResult result = carryOut(run, other, job.systems()::target, records, watch);
            LedgerChunks written = ledger.chunks(run.id, LedgerStage.WRITTEN);
            return issuing.delivered(run, watch.epoch(), job, written, folder, result);
        }
    }

    private RunResult carryOut(
            RunEntity run, RunEntity other, Function<String, Writes> systems, RunRecords records, RunWatch watch) {
        Undone undone = new Undone(
                other.ledgerWrites(),
                ledger.chunks(other.id, LedgerStage.WRITTEN),
                line -> isChosen(other, run.undoKeys, line),
                run.undoFields == null ? Set.of() : Set.copyOf(run.undoFields));
        UndoRun undo = new UndoRun(
                String.valueOf(run.id),
                watch.epoch(),
                run.ledgerWrites(),
                undone,
                systems,
                records,
                watch,
                RunExecution.policy(run, Purpose.WRITE));
        return SecondPerson.beforeUndo(run, undo)
                .map(why -> new RunResult(RunState.HELD, List.of(why), RunBalance.of(0, records.chunks(), false)))
                .orElseGet(undo::execute);
    }

    private static boolean isChosen(RunEntity run, @Nullable Map<String, String> keys, LedgerRow line) {
        if (keys == null) {
            return true;
        }
        List<String> names = run.knownWrites().get(line.write()).keyFields();
        return line.key() != null
                && names.containsAll(keys.keySet())
                && keys.entrySet().stream()
                        .allMatch(key -> Objects.equals(
                                Values.text(line.key().get(names.indexOf(key.getKey()))), key.getValue()));
    }
}
