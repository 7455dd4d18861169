package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Token;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Writes a batch by lines of a ledger: as they stand there, all of them or none. Nothing is computed a second time. Where a
 * record is no longer as the line found it, or the target refuses it now, the row is rejected together with its group.
 */
final class LineWriter {
    private final Attempt attempt;
    private final LedgerWrites writes;
    private final Targets targets;
    private final LateRejects rejects;
    private final LinesLedger ledger;

    LineWriter(Attempt attempt, Targets targets, LateRejects rejects) {
        this.attempt = attempt;
        this.writes = attempt.writes();
        this.targets = targets;
        this.rejects = rejects;
        this.ledger = new LinesLedger(writes, targets.cells());
    }

    /** Why the lines are written, and what that means for them. */
    interface Rules {
        /** Whether the lines of a write are written now. */
        boolean covers(int write);

        /** What is said of a record that is no longer as the line found it. */
        Problem changed();

        /** Whether a new record of a write gets the id that its line knows. */
        boolean ownIds(int write);

        /** The line as it can be written now, or what keeps it from that. */
        default Ready ready(LedgerRow line) {
            return new Ready(line, Optional.empty());
        }

        /** A line was written, though the batch isn't committed yet. */
        default void written(LedgerRow line, LedgerRow as) {}

        /** All that is said of a row that is refused. */
        default List<Problem> said(LedgerRow row, List<Problem> why) {
            return why;
        }

        /** Keeps the chunk, before its batch is committed; false where it is not to be. */
        boolean keep(Chunk chunk);

        /** The batch was committed, or had nothing to commit. */
        void committed(Chunk chunk);

        /** One connection has committed, another has not yet. */
        default void between() {}
    }

    /** A line, and what keeps it from being written. */
    record Ready(LedgerRow line, Optional<Problem> hindrance) {}

    /** What becomes of a batch while it is written. */
    private final class Batch {
        private final List<LedgerRow> lines;
        private final Rules rules;
        private final @Nullable LedgerRow[] written;
        private final Map<Long, List<Problem>> refused = new HashMap<>();
        /** The positions of those that a target refused. */
        private final Set<Long> byTarget = new HashSet<>();

        private final RefusedLines without;
        private final Set<Integer> connections = new TreeSet<>();

        Batch(List<LedgerRow> lines, Rules rules) {
            this.without = new RefusedLines(writes);
            this.lines = lines;
            this.rules = rules;
            this.written = new LedgerRow[lines.size()];
        }

        void begin() {
            Arrays.fill(written, null);
            connections.clear();
        }

        /** The lines of a write that are written now. */
        int[] going(int write) {
            return IntStream.range(0, lines.size())
                    .filter(i -> lines.get(i).write() == write && lines.get(i).wrote() && !without.has(lines.get(i)))
                    .toArray();
        }

        void refuse(int line, List<Problem> problems) {
            refused.putIfAbsent(lines.get(line).position(), problems);
            without.add(lines.get(line));
        }

        /** The lines as they become. */
        List<LedgerRow> now(Map<Long, List<Problem>> said) {
            List<LedgerRow> now = new ArrayList<>();
            for (int i = 0; i < written.length; i++) {
                LedgerRow row = lines.get(i);
                LedgerRow as = written[i];
                boolean lost = row.stands() && rules.covers(row.write()) && without.has(row);
                if (lost) {
                    now.add(row.refused(said.computeIfAbsent(
                            row.position(),
                            at -> rules.said(row, refused.getOrDefault(at, List.of(LateRejects.GROUP))))));
                } else {
                    now.add(as == null ? row : as);
                }
            }
            return now;
        }
    }

    /**
     * Writes the lines of a batch.
     *
     * @param meant its ledger as it is meant to become
     * @return whether it was kept
     */
    boolean write(ChunkLines meant, Rules rules) {
        Batch batch = new Batch(meant.rows(), rules);
        while (true) {
            int before = batch.without.size();
            batch.begin();
            try (Work work = targets.begin(attempt.unit(meant.head().batch()))) {
                apply(work, batch, before);
                if (writes.simple() || batch.without.size() == before) {
                    return commit(work, meant, batch);
                }
            }
        }
    }

    /** Ends early where rows are refused whose groups must go first. */
    private void apply(Work work, Batch batch, int before) {
        int count = writes.count();
        for (int write = 0; write < count && (writes.simple() || batch.without.size() == before); write++) {
            int[] going = batch.rules.covers(write) ? batch.going(write) : new int[0];
            if (going.length > 0) {
                apply(work, write, going, batch);
            }
        }
    }

    private void apply(Work work, int write, int[] going, Batch batch) {
        List<LedgerRow> ready = new ArrayList<>();
        List<Integer> places = new ArrayList<>();
        for (int place : going) {
            Ready now = batch.rules.ready(batch.lines.get(place));
            if (now.hindrance().isPresent()) {
                batch.refuse(place, List.of(now.hindrance().get()));
            } else {
                ready.add(now.line());
                places.add(place);
            }
        }
        Target target = targets.of(write);
        boolean ownIds = batch.rules.ownIds(write);
        ChangeSet changes = new LedgerChanges(target.cells(), ownIds).of(ready);
        int[] all = IntStream.range(0, ready.size()).toArray();
        StoredNow now = StoredNow.of(target, changes, all);
        int[] changing = IntStream.of(all)
                .filter(row -> now.as(row) == StoredNow.As.BEFORE)
                .toArray();
        if (!ownIds) {
            NewIds.RESERVED.give(target, changes, changes.rows(ChangeSet.Kind.INSERT, changing));
        }
        Answers answers = new Answers(changes);
        if (changing.length > 0) {
            work.apply(write, changes, changing, answers);
        }
        for (int row : all) {
            hear(write, row, places.get(row), ready.get(row), changes, answers, batch);
        }
    }

    /** Notes what the target says of the line at a place. */
    private void hear(int write, int row, int place, LedgerRow ready, ChangeSet changes, Answers answers, Batch batch) {
        switch (answers.kind(row)) {
            case DONE -> {
                LedgerRow as = as(ready, row, changes, answers);
                batch.written[place] = as;
                batch.rules.written(batch.lines.get(place), as);
                batch.connections.add(targets.connection(write));
            }
            case REFUSED -> {
                batch.refuse(place, answers.problems(row));
                batch.byTarget.add(batch.lines.get(place).position());
            }
            case NONE, MOVED -> batch.refuse(place, List.of(batch.rules.changed()));
            case UNKNOWN -> batch.refuse(place, List.of(BatchInHand.UNKNOWN));
        }
    }

    /** The line with what became known when it was written: an id, what is stored, and all that a removed record held. */
    static LedgerRow as(LedgerRow line, int row, ChangeSet changes, Answers answers) {
        if (line.outcome() == Outcome.DELETED && changes.change(row) instanceof Change.Delete delete) {
            return line.removed(delete.before());
        }
        LedgerRow known = line.outcome() == Outcome.INSERTED ? line.identified(answers.id(row, changes)) : line;
        if (!StoredOtherwise.fields(changes, answers, row).isEmpty()) {
            known = known.noting(ProblemCode.CHANGED_BY_TARGET);
        }
        return answers.storedAt(row) >= 0
                        && answers.get(row, changes) instanceof Answer.Done done
                        && done.stored() != null
                ? known.stored(done.stored())
                : known;
    }

    private boolean commit(Work work, ChunkLines meant, Batch batch) {
        Map<Long, List<Problem>> said = new HashMap<>();
        List<LedgerRow> now = batch.now(said);
        SortedMap<Integer, Token> tokens = work.tokens(batch.connections);
        Chunk kept = ledger.corrected(meant, now, rejects.of(batch.lines, said, batch.byTarget), tokens);
        if (!batch.rules.keep(kept)) {
            return false;
        }
        work.commit(batch.connections, batch.rules::between);
        batch.rules.committed(kept);
        return true;
    }
}
