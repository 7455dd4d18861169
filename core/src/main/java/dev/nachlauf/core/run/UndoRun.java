package dev.nachlauf.core.run;

import dev.nachlauf.core.job.Limits;
import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow.Values;
import dev.nachlauf.core.system.Writes;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Takes back what a run has written, by its ledger, newest first: new records go, removed ones come back, changed fields get
 * their values from before. A record that was changed since is left alone, and its line is rejected. An undo is a run like
 * any other: executed again after a crash it goes on, and it can be undone.
 */
public final class UndoRun {
    private static final Problem CHANGED = Problem.of(
            ProblemCode.CHANGED_SINCE_WRITTEN,
            "The record is no longer as the run has left it.",
            "Look at its history, then correct it by hand where that is meant.");

    private final Attempt attempt;
    private final LedgerWrites undone;
    private final LedgerChunks ledger;
    private final Predicate<LedgerRow> chosen;
    private final Set<String> fields;
    private final Function<String, Writes> systems;
    private final RunRecords records;
    private final RunObserver observer;
    private final RunPolicy policy;
    private final Pulse pulse;

    /**
     * What is undone of a run.
     *
     * @param writes its writes
     * @param ledger its ledger, in which nothing is in doubt
     * @param chosen which lines are undone
     * @param fields which fields are; all where it is empty. Only changed records have fields that go back alone
     */
    public record Undone(LedgerWrites writes, LedgerChunks ledger, Predicate<LedgerRow> chosen, Set<String> fields) {
        public Undone {
            fields = Set.copyOf(fields);
        }
    }

    /**
     * A run that undoes another.
     *
     * @param writes what it writes: the writes of the other run from the last to the first, so that children go before
     *     their parents; each with its fields, and behind them all that a removed record has besides
     */
    public UndoRun(
            String run,
            long epoch,
            LedgerWrites writes,
            Undone undone,
            Function<String, Writes> systems,
            RunRecords records,
            RunObserver observer,
            RunPolicy policy) {
        this.attempt = new Attempt(run, epoch, writes, records, observer);
        this.undone = undone.writes;
        this.ledger = undone.ledger;
        this.chosen = undone.chosen;
        this.fields = undone.fields;
        this.systems = systems;
        this.records = records;
        this.observer = observer;
        this.policy = policy;
        this.pulse = new Pulse(observer);
    }

    /** Shows every line that would take something back, newest batch first; nothing is done. */
    public void foresee(Consumer<LedgerRow> use) {
        for (Chunk.Head head : ledger.chunks().reversed()) {
            pulse.run();
            lines(head).forEach(use);
        }
    }

    /** Takes back what is not taken back yet; as {@link LoadRun#execute}. */
    public RunResult execute() {
        LateRejects rejects = LateRejects.withoutRows();
        List<TargetOpening> openings = TargetOpening.of(attempt.writes(), systems);
        try (Targets targets = Targets.open(openings, systems, records, observer)) {
            Settling.Endings endings = new Settling.Endings(
                    new HalfWritten(attempt, targets, rejects), new HalfSent(attempt, targets, rejects));
            new Settling(Settling.of(attempt.writes(), targets), records, Optional.of(endings), pulse).settle();
            return write(targets, rejects);
        } catch (Pulse.StopHeard e) {
            return new RunResult(RunState.STOPPED, List.of(), balance(RunBalance.rows(records.chunks())));
        }
    }

    private RunResult write(Targets targets, LateRejects rejects) {
        Set<Integer> done = new HashSet<>();
        records.chunks().forEach(head -> done.add(head.batch()));
        List<Chunk.Head> all = ledger.chunks().reversed();
        long rows = survey(all);
        LimitGuard guard = new LimitGuard(
                Limits.NONE, policy, rows, 0, RunBalance.counts(records.chunks()), RunBalance.tally(records.chunks()));
        observer.writing(rows);
        LinesLedger kept = new LinesLedger(attempt.writes(), targets.cells());
        PlannedLines writing = new PlannedLines(attempt, targets, rejects, guard, new TakenBack(targets));
        Iterator<Integer> numbers = IntStream.range(0, all.size()).iterator();
        new Pipeline<>(() -> next(numbers, all, done, kept, targets), List.of(writing), observer::stopRequested).run();
        return RunBalance.ended(balance(rows), guard.crossed(), observer.stopRequested(), List.of());
    }

    /** What takes the next batch back that is not taken back yet; null at the end. */
    private @Nullable ChunkLines next(
            Iterator<Integer> numbers, List<Chunk.Head> all, Set<Integer> done, LinesLedger kept, Targets targets) {
        while (numbers.hasNext()) {
            int number = numbers.next();
            List<LedgerRow> lines = done.contains(number + 1) ? List.of() : lines(all.get(number));
            if (!lines.isEmpty()) {
                return batch(number + 1, lines, kept, targets);
            }
        }
        return null;
    }

    /** Counts the rows by themselves, before anything is written. */
    private long survey(List<Chunk.Head> all) {
        long rows = 0;
        for (Chunk.Head head : all) {
            pulse.run();
            rows += rows(lines(head));
            observer.surveyed(rows);
        }
        return rows;
    }

    private static long rows(List<LedgerRow> lines) {
        return lines.stream().map(LedgerRow::position).distinct().count();
    }

    private Balance balance(long rows) {
        return RunBalance.of(rows, records.chunks(), attempt.writes().count() == 1);
    }

    private ChunkLines batch(int number, List<LedgerRow> lines, LinesLedger kept, Targets targets) {
        Chunk.Range range =
                new Chunk.Range(lines.getFirst().number(), lines.getLast().number(), 0, Math.toIntExact(rows(lines)));
        Chunk.Head head = kept.head(number, range, lines, range.rows());
        return new ChunkLines(head, targets.cells(), lines, List.of());
    }

    /** What takes a batch back, in the order of its lines. */
    private List<LedgerRow> lines(Chunk.Head head) {
        List<LedgerRow> lines = new ArrayList<>();
        for (LedgerRow line : ChunkCodec.rows(ledger.chunk(head.batch()), undone)) {
            if (line.wrote() && chosen.test(line)) {
                LedgerRow inverse = inverse(line);
                if (inverse != null) {
                    lines.add(inverse);
                }
            }
        }
        return lines;
    }

    /** The line that takes another back; null where nothing of it is chosen. */
    private @Nullable LedgerRow inverse(LedgerRow line) {
        int write = undone.count() - 1 - line.write();
        int width = attempt.writes().get(write).fields().size();
        BitSet changed = line.outcome() == Outcome.UPDATED
                ? chosen(line)
                : (BitSet) line.changed().clone();
        boolean partly = !fields.isEmpty() && line.outcome() != Outcome.UPDATED;
        if (partly || line.outcome() == Outcome.UPDATED && changed.isEmpty()) {
            return null;
        }
        Outcome outcome = switch (line.outcome()) {
            case INSERTED -> Outcome.DELETED;
            case DELETED -> Outcome.INSERTED;
            case UPDATED -> Outcome.UPDATED;
            case UNCHANGED, ISSUED, REJECTED, SKIPPED ->
                throw new IllegalArgumentException("only what was written can be taken back");
        };
        if (outcome == Outcome.INSERTED) {
            changed.set(0, width);
        }
        Values record =
                new Values(line.key(), line.id(), null, changed, wide(line.after(), width), wide(line.before(), width));
        return line.alone(write).with(outcome, record);
    }

    private BitSet chosen(LedgerRow line) {
        BitSet changed = (BitSet) line.changed().clone();
        List<String> names = undone.get(line.write()).fields();
        if (!fields.isEmpty()) {
            changed.stream().filter(field -> !fields.contains(names.get(field))).forEach(changed::clear);
        }
        return changed;
    }

    private static @Nullable Object[] wide(@Nullable Object[] values, int width) {
        return Arrays.copyOf(values, width);
    }

    /** Removed records come back under the ids that they had. */
    private static final class TakenBack implements PlannedLines.Meaning {
        private final Targets targets;

        TakenBack(Targets targets) {
            this.targets = targets;
        }

        @Override
        public Problem changed() {
            return CHANGED;
        }

        @Override
        public boolean ownIds(int write) {
            return targets.hasIdOfItsOwn(write);
        }
    }
}
