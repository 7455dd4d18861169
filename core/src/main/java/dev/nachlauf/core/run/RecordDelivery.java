package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Target.Token;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;

/**
 * Delivers a batch to targets that take record by record, where nothing that is sent can be taken back: the ledger says
 * what is meant before anything is sent, and what came of it afterwards. A group of which a row is refused is sent no
 * further; what was sent of it stands, and its rejects say so. {@link HalfSent} finds out what a crash leaves.
 */
final class RecordDelivery implements Delivery {
    private final Attempt attempt;
    private final LedgerWrites writes;
    private final Targets targets;
    private final BatchPlanner planner;
    private final LimitGuard guard;
    private final BatchLedger ledger;
    private final RecordSender sender;

    RecordDelivery(Attempt attempt, Targets targets, BatchPlanner planner, LimitGuard guard) {
        this.attempt = attempt;
        this.writes = attempt.writes();
        this.targets = targets;
        this.planner = planner;
        this.guard = guard;
        this.ledger = new BatchLedger(writes, targets.cells());
        this.sender = new RecordSender(targets);
    }

    @Override
    public boolean deliver(BatchInHand hand) {
        int batch = hand.batch().number();
        RunObserver observer = attempt.observer();
        boolean within;
        try (Work work = targets.begin(attempt.unit(batch))) {
            SortedMap<Integer, Token> tokens = work.begun(targets.connections(w -> hand.changing(w).length > 0));
            Chunk intent = ledger.intent(hand, tokens);
            if (!guard.allows(intent.head())) {
                attempt.records().foresee(ChunkCodec.rejects(intent.rejects()));
                return false;
            }
            observer.reached(RunObserver.Point.BEFORE_LEDGER, batch);
            attempt.records().save(intent, List.of());
            Chunk.Head came = intent.head();
            if (!tokens.isEmpty()) {
                observer.reached(RunObserver.Point.BETWEEN_LEDGER_AND_COMMIT, batch);
                send(work, hand, tokens);
                observer.reached(RunObserver.Point.AFTER_COMMIT, batch);
                Chunk chunk = ledger.chunk(hand, Collections.emptySortedMap());
                attempt.records().replace(chunk);
                came = chunk.head();
                planner.written();
            }
            within = guard.took(came);
        }
        observer.written(guard.counts());
        return within;
    }

    @Override
    public void finish() {
        // what was sent is known to the ledger when its batch ends
    }

    private void send(Work work, BatchInHand hand, SortedMap<Integer, Token> tokens) {
        for (int w = 0; w < writes.count(); w++) {
            int[] moved = send(work, w, hand, hand.changing(w));
            if (moved.length > 0) {
                planner.decide(w, hand, moved);
                // what is sent once more is meant otherwise now, and the ledger says so first
                attempt.records().replace(ledger.intent(hand, tokens));
                hand.refuseMoved(w, send(work, w, hand, hand.changing(w, moved)));
            }
            int next = w + 1;
            hand.refuseGroups(row -> hand.changes(row, next));
        }
        tellWhatStands(hand);
    }

    private int[] send(Work work, int write, BatchInHand hand, int[] changing) {
        Part part = hand.part(write);
        sender.send(work, write, part.changes(), changing, part.answers());
        return hand.heard(write, changing);
    }

    /** Rejects of which something was sent say so. */
    private void tellWhatStands(BatchInHand hand) {
        if (writes.simple() || hand.countRefused() == 0) {
            return;
        }
        Map<Long, Set<String>> written = new HashMap<>();
        for (int w = 0; w < writes.count(); w++) {
            Part part = hand.part(w);
            for (int place : part.all()) {
                if (part.wrote(part.row(place))) {
                    written.computeIfAbsent(hand.bonds().bond(part.row(place)), any -> new LinkedHashSet<>())
                            .add(writes.get(w).target());
                }
            }
        }
        for (int row : hand.refused()) {
            Set<String> names = written.get(hand.bonds().bond(row));
            if (names != null) {
                hand.alsoSay(row, stands(names));
            }
        }
    }

    /** The problem of a row of which, or of whose group, something is written that can't be taken back. */
    static Problem stands(Set<String> names) {
        return Problem.of(
                ProblemCode.HALF_WRITTEN,
                "Something that belongs to this row was written to " + String.join(", ", names)
                        + " before the row was refused.",
                "Send the row again: what is written already is left alone.");
    }
}
