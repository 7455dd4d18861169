package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.Target.Token;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;

/** Writes batches that are planned to the last, one after the other. */
final class PlannedLines implements Pipeline.Writer<ChunkLines> {
    private final Attempt attempt;
    private final Targets targets;
    private final LimitGuard guard;
    private final LateRejects rejects;
    private final LineWriter writer;
    private final HalfSent halfSent;
    private final LinesLedger ledger;
    private final Whole rules;
    /** Committed in the target; marked as done with the next chunk. */
    private final List<Integer> committed = new ArrayList<>();

    PlannedLines(Attempt attempt, Targets targets, LateRejects rejects, LimitGuard guard, Meaning meaning) {
        this.attempt = attempt;
        this.targets = targets;
        this.guard = guard;
        this.rejects = rejects;
        this.writer = new LineWriter(attempt, targets, rejects);
        this.halfSent = new HalfSent(attempt, targets, rejects);
        this.ledger = new LinesLedger(attempt.writes(), targets.cells());
        this.rules = new Whole(meaning);
    }

    /** Writes a batch; false where it crosses a limit, and then nothing of it is written that can be taken back. */
    @Override
    public boolean write(ChunkLines batch) {
        boolean within = targets.isAtomic() ? writer.write(batch, rules) : send(batch);
        attempt.observer().written(guard.counts());
        return within;
    }

    /** Record by record: what is meant is kept first, and what came of it then takes its place. */
    private boolean send(ChunkLines batch) {
        Map<Long, List<Problem>> refused = new HashMap<>();
        List<LedgerRow> meant = ready(batch, refused);
        int number = batch.head().batch();
        SortedMap<Integer, Token> tokens;
        try (Work work = targets.begin(attempt.unit(number))) {
            tokens = work.begun(
                    targets.connections(w -> !LedgerChanges.of(meant, w).isEmpty()));
        }
        Chunk intent = ledger.corrected(batch, meant, rejects.of(batch.rows(), refused, Set.of()), tokens);
        if (!guard.allows(intent.head())) {
            attempt.records().foresee(ChunkCodec.rejects(intent.rejects()));
            return false;
        }
        attempt.observer().reached(RunObserver.Point.BEFORE_LEDGER, number);
        attempt.records().save(intent, List.of());
        Chunk.Head came = intent.head();
        if (!tokens.isEmpty()) {
            attempt.observer().reached(RunObserver.Point.BETWEEN_LEDGER_AND_COMMIT, number);
            halfSent.finish(ledger.unpack(intent), rules.changed());
            Chunk sent = attempt.records().chunk(number);
            List<LedgerRow> lines = ledger.rows(sent);
            for (int i = 0; i < lines.size(); i++) {
                rules.written(batch.rows().get(i), lines.get(i));
            }
            came = sent.head();
        }
        return guard.took(came);
    }

    /** The lines as they can be sent; what keeps a row from that keeps its group from it. */
    private List<LedgerRow> ready(ChunkLines batch, Map<Long, List<Problem>> refused) {
        List<LedgerRow> lines = new ArrayList<>();
        RefusedLines without = new RefusedLines(attempt.writes());
        for (LedgerRow line : batch.rows()) {
            LineWriter.Ready ready = line.wrote() ? rules.ready(line) : new LineWriter.Ready(line, Optional.empty());
            if (ready.hindrance().isPresent()) {
                refused.putIfAbsent(line.position(), List.of(ready.hindrance().get()));
                without.add(line);
            }
            lines.add(ready.line());
        }
        lines.replaceAll(line -> line.stands() && without.has(line)
                ? line.refused(refused.computeIfAbsent(line.position(), any -> List.of(LateRejects.GROUP)))
                : line);
        return lines;
    }

    /** Marks what is committed as done. */
    @Override
    public void finish() {
        if (!committed.isEmpty()) {
            attempt.records().settled(List.copyOf(committed));
            committed.clear();
        }
    }

    /** What the lines are planned for. */
    interface Meaning {
        /** What is said of a record that is no longer as the line found it. */
        Problem changed();

        /** Whether a new record of a write gets the id that its line knows. */
        default boolean ownIds(int write) {
            return false;
        }

        /** The line as it can be written now, or what keeps it from that. */
        default LineWriter.Ready ready(LedgerRow line) {
            return new LineWriter.Ready(line, Optional.empty());
        }

        /** A line was written, and this is what it became. */
        default void written(LedgerRow line, LedgerRow as) {}
    }

    /** All lines are written, and the chunk is kept before. */
    private final class Whole implements LineWriter.Rules {
        private final Meaning meaning;

        Whole(Meaning meaning) {
            this.meaning = meaning;
        }

        @Override
        public boolean covers(int write) {
            return true;
        }

        @Override
        public Problem changed() {
            return meaning.changed();
        }

        @Override
        public boolean ownIds(int write) {
            return meaning.ownIds(write);
        }

        @Override
        public LineWriter.Ready ready(LedgerRow line) {
            return meaning.ready(line);
        }

        @Override
        public void written(LedgerRow line, LedgerRow as) {
            meaning.written(line, as);
        }

        @Override
        public boolean keep(Chunk chunk) {
            if (!guard.admit(chunk.head())) {
                attempt.records().foresee(ChunkCodec.rejects(chunk.rejects()));
                return false;
            }
            int batch = chunk.head().batch();
            attempt.observer().reached(RunObserver.Point.BEFORE_LEDGER, batch);
            attempt.records().save(chunk, List.copyOf(committed));
            committed.clear();
            attempt.observer().reached(RunObserver.Point.BETWEEN_LEDGER_AND_COMMIT, batch);
            return true;
        }

        @Override
        public void committed(Chunk chunk) {
            if (!chunk.head().tokens().isEmpty()) {
                committed.add(chunk.head().batch());
                attempt.observer()
                        .reached(RunObserver.Point.AFTER_COMMIT, chunk.head().batch());
            }
        }
    }
}
