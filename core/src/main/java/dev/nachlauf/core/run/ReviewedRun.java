package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Writes;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.LongPredicate;
import org.jspecify.annotations.Nullable;

/**
 * Writes what a person has reviewed and released: the planned lines of a held run as they stand there, without the rows
 * that were left out. A record that differs from what was reviewed is left alone, and its row is rejected. Executed again
 * after a crash, it goes on.
 */
public final class ReviewedRun {
    /** Why a row is skipped that a person has left out. */
    public static final String LEFT_OUT = "left out";

    private static final Problem CHANGED = Problem.of(
            ProblemCode.CHANGED_SINCE_REVIEW,
            "The record is no longer as it was when the run was reviewed.",
            "Start the job again and look at what it would change now.");

    private final Attempt attempt;
    private final Plan plan;
    private final LedgerChunks planned;
    private final RunRecords records;
    private final RunObserver observer;
    private final Function<String, Writes> systems;
    private final RunPolicy policy;
    private final LongPredicate leftOut;
    private final Survey.RowSupply rows;
    private final LateRejects rejects;
    private final PlannedIds ids;
    private final Pulse pulse;

    /**
     * A run that was released.
     *
     * @param planned what was reviewed
     * @param leftOut whether a row of the source is left out
     * @param source the rows, for rejects that nobody foresaw
     */
    public ReviewedRun(
            String run,
            long epoch,
            Plan plan,
            SourceSupply source,
            Function<String, Writes> systems,
            LedgerChunks planned,
            RunRecords records,
            LongPredicate leftOut,
            RunObserver observer,
            RunPolicy policy,
            Path scratch) {
        this.attempt = new Attempt(run, epoch, LedgerWrites.of(plan), records, observer);
        this.plan = plan;
        this.systems = systems;
        this.planned = planned;
        this.records = records;
        this.leftOut = leftOut;
        this.observer = observer;
        this.policy = policy;
        this.pulse = new Pulse(observer);
        this.ids = new PlannedIds(plan);
        this.rows = Survey.rows(plan, source, records, pulse);
        this.rejects = new LateRejects(plan, rows);
    }

    /** Writes what is not written yet; as {@link LoadRun#execute}. */
    public RunResult execute() {
        try (Targets targets = Targets.open(TargetOpening.of(plan), systems, records, observer)) {
            Settling.Endings endings = new Settling.Endings(
                    new HalfWritten(attempt, targets, rejects), new HalfSent(attempt, targets, rejects));
            new Settling(Settling.of(attempt.writes(), targets), records, Optional.of(endings), pulse).settle();
            return write(targets);
        } catch (Pulse.StopHeard e) {
            return new RunResult(RunState.STOPPED, List.of(), balance());
        } finally {
            rejects.close();
        }
    }

    private RunResult write(Targets targets) {
        LinesLedger ledger = new LinesLedger(attempt.writes(), targets.cells());
        Set<Integer> done = new HashSet<>();
        records.chunks().forEach(head -> done.add(head.batch()));
        List<Chunk.Head> all = planned.chunks();
        long read = RunBalance.rows(all);
        LimitGuard guard = new LimitGuard(
                plan.job().limits(), policy, read, 0, balance().counts(), RunBalance.tally(records.chunks()));
        observer.writing(read);
        boolean several = LoadRun.mayHaveSeveralWriters(plan) && targets.severalWriters() && all.size() > 1;
        Iterator<Chunk.Head> heads = all.iterator();
        try (Targets second = several ? targets.another() : targets;
                LateRejects more = several ? rejects() : rejects) {
            List<PlannedLines> writers = new ArrayList<>();
            writers.add(writer(targets, rejects, guard));
            if (several) {
                writers.add(writer(second, more, guard));
            }
            new Pipeline<>(() -> next(heads, done, ledger), writers, observer::stopRequested).run();
        }
        return RunBalance.ended(balance(), guard.crossed(), observer.stopRequested(), List.of());
    }

    private LateRejects rejects() {
        return new LateRejects(plan, rows);
    }

    private PlannedLines writer(Targets targets, LateRejects late, LimitGuard guard) {
        return new PlannedLines(attempt, targets, late, guard, new Released(targets));
    }

    /** The next batch that is not written yet; null at the end. */
    private @Nullable ChunkLines next(Iterator<Chunk.Head> heads, Set<Integer> done, LinesLedger ledger) {
        while (heads.hasNext()) {
            int batch = heads.next().batch();
            ChunkLines lines = without(ledger.unpack(planned.chunk(batch)), ledger);
            if (!done.contains(batch)) {
                return lines;
            }
            learn(lines, ledger.unpack(records.chunk(batch)));
        }
        return null;
    }

    private Balance balance() {
        return RunBalance.of(RunBalance.rows(planned.chunks()), records.chunks(), RunBalance.isSimple(plan));
    }

    /** What an earlier attempt has written of a batch is known to what refers to it. */
    private void learn(ChunkLines meant, ChunkLines came) {
        for (int i = 0; ids.asked() && i < meant.rows().size(); i++) {
            ids.learn(meant.rows().get(i), came.rows().get(i));
        }
    }

    /** A planned batch without the rows that were left out, and without what refers to records of theirs. */
    private ChunkLines without(ChunkLines batch, LinesLedger ledger) {
        Map<Long, LedgerRow> left = new HashMap<>();
        Set<Long> groups = new HashSet<>();
        boolean more = true;
        while (more) {
            more = false;
            for (LedgerRow line : batch.rows()) {
                boolean leaves =
                        leftOut.test(line.number()) || groups.contains(line.group()) || ids.refersToLeftOut(line);
                if (leaves && line.stands() && left.putIfAbsent(line.position(), line) == null) {
                    more = true;
                    if (line.position() == line.group()) {
                        groups.add(line.group());
                    }
                    batch.rows().stream()
                            .filter(row -> row.position() == line.position())
                            .forEach(ids::leave);
                }
            }
        }
        if (left.isEmpty()) {
            return batch;
        }
        List<LedgerRow> rows = new ArrayList<>();
        Set<Long> told = new HashSet<>();
        for (LedgerRow line : batch.rows()) {
            if (!left.containsKey(line.position())) {
                rows.add(line);
            } else if (told.add(line.position())) {
                rows.add(line.skipped(attempt.writes().main(), LEFT_OUT));
            }
        }
        return ledger.without(batch, rows, left.size(), new StepTally(plan).isLevel());
    }

    /** New records get ids now, and what refers to them is told. */
    private final class Released implements PlannedLines.Meaning {
        private final Targets targets;

        Released(Targets targets) {
            this.targets = targets;
        }

        @Override
        public Problem changed() {
            return CHANGED;
        }

        @Override
        public LineWriter.Ready ready(LedgerRow line) {
            return ids.resolved(line, targets.of(line.write()).cells().key());
        }

        @Override
        public void written(LedgerRow line, LedgerRow as) {
            ids.learn(line, as);
        }
    }
}
