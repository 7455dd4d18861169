package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Brings a batch to its end that was being sent record by record when its run broke off. Every record is looked up: what
 * is there as the ledger means it is done, what is as it was before is sent now, and what is neither is never sent again.
 */
final class HalfSent {
    private static final Problem UNCLEAR = Problem.of(
            ProblemCode.OUTCOME_UNKNOWN,
            "The run was interrupted while it sent this row, and the record is neither as it was nor as it should be.",
            "Look the record up before you send the row again.");

    private final Attempt attempt;
    private final LedgerWrites writes;
    private final Targets targets;
    private final LateRejects rejects;
    private final LinesLedger ledger;
    private final RecordSender sender;

    HalfSent(Attempt attempt, Targets targets, LateRejects rejects) {
        this.attempt = attempt;
        this.writes = attempt.writes();
        this.targets = targets;
        this.rejects = rejects;
        this.ledger = new LinesLedger(writes, targets.cells());
        this.sender = new RecordSender(targets);
    }

    /** Finishes what an interrupted attempt has begun. */
    void finish(Chunk chunk) {
        finish(ledger.unpack(chunk), UNCLEAR);
    }

    /** @param otherwise what is said of a record that is neither as it was nor as it should be */
    void finish(ChunkLines meant, Problem otherwise) {
        List<LedgerRow> before = meant.rows();
        Batch batch = new Batch(new ArrayList<>(before));
        try (Work work = targets.begin(attempt.unit(meant.head().batch()))) {
            for (int w = 0; w < writes.count(); w++) {
                finish(work, w, batch, otherwise);
            }
        }
        batch.conclude();
        attempt.records()
                .replace(ledger.corrected(
                        meant,
                        batch.lines,
                        rejects.of(before, batch.refused, batch.byTarget),
                        Collections.emptySortedMap()));
    }

    private void finish(Work work, int write, Batch batch, Problem otherwise) {
        int[] places = batch.open(write);
        if (places.length == 0) {
            return;
        }
        Target target = targets.of(write);
        List<LedgerRow> lines = IntStream.of(places).mapToObj(batch.lines::get).toList();
        ChangeSet changes = new LedgerChanges(target.cells(), true).of(lines);
        int[] all = IntStream.range(0, places.length).toArray();
        StoredNow now = StoredNow.of(target, changes, all);
        int[] sent = IntStream.of(all)
                .filter(i -> now.as(i) == StoredNow.As.BEFORE && !batch.isRefused(places[i]))
                .toArray();
        Answers answers = new Answers(changes);
        sender.send(work, write, changes, sent, answers);
        for (int i : all) {
            switch (now.as(i)) {
                case AFTER -> batch.done(places[i], batch.lines.get(places[i]).identified(now.id(i)));
                case BEFORE -> hear(batch, places[i], i, changes, answers);
                case OTHERWISE -> batch.refuse(places[i], otherwise);
            }
        }
    }

    private static void hear(Batch batch, int place, int row, ChangeSet changes, Answers answers) {
        switch (answers.kind(row)) {
            case DONE -> batch.done(place, LineWriter.as(batch.lines.get(place), row, changes, answers));
            case REFUSED -> {
                batch.refuse(place, answers.problems(row).toArray(Problem[]::new));
                batch.byTarget.add(batch.lines.get(place).position());
            }
            case MOVED -> batch.refuse(place, LateRejects.CHANGED);
            case UNKNOWN -> batch.refuse(place, BatchInHand.UNKNOWN);
            case NONE -> batch.refuse(place);
        }
    }

    /** The lines of the batch as they become, and the rows that are refused by now. */
    private final class Batch {
        private final List<LedgerRow> lines;
        private final Set<Integer> refusedLines = new HashSet<>();
        /** Why rows are refused, by their position. */
        private final Map<Long, List<Problem>> refused = new HashMap<>();

        /** The positions of those that a target refused. */
        private final Set<Long> byTarget = new HashSet<>();

        private final RefusedLines without = new RefusedLines(writes);
        private final Map<Long, Set<String>> written = new HashMap<>();

        Batch(List<LedgerRow> lines) {
            this.lines = lines;
        }

        /** The lines of a write that change a record. */
        int[] open(int write) {
            return IntStream.range(0, lines.size())
                    .filter(line ->
                            lines.get(line).write() == write && lines.get(line).wrote())
                    .toArray();
        }

        boolean isRefused(int line) {
            return without.has(lines.get(line));
        }

        void done(int line, LedgerRow row) {
            lines.set(line, row);
            written.computeIfAbsent(without.bond(row), any -> new LinkedHashSet<>())
                    .add(writes.get(row.write()).target());
        }

        /** Refuses the line's row; without a reason, because of its group. */
        void refuse(int line, Problem... problems) {
            LedgerRow row = lines.get(line);
            List<Problem> all = refused.computeIfAbsent(row.position(), any -> new ArrayList<>());
            all.addAll(problems.length == 0 && all.isEmpty() ? List.of(LateRejects.GROUP) : List.of(problems));
            without.add(row);
            refusedLines.add(line);
        }

        /** Rejects of which something is written say so, and the lines say what the rejects do. */
        void conclude() {
            Set<Long> told = new HashSet<>();
            for (LedgerRow row : lines) {
                List<Problem> problems = refused.get(row.position());
                Set<String> names = written.get(without.bond(row));
                if (problems != null && names != null && !writes.simple() && told.add(row.position())) {
                    problems.add(RecordDelivery.stands(names));
                }
            }
            refusedLines.forEach(line -> {
                LedgerRow row = lines.get(line);
                lines.set(line, row.refused(refused.getOrDefault(row.position(), List.of())));
            });
        }
    }
}
