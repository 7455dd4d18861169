package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Answers;

/**
 * Applies what is planned of batches to targets whose units are written whole or not at all. A row is written in all of its
 * writes or in none, and so is a group: where a write refuses a row whose group has been written elsewhere in the batch,
 * the batch is begun anew without that group.
 */
final class BatchApplying {
    /** So often a batch is begun anew because somebody else keeps changing its records. */
    private static final int PATIENCE = 3;

    private final Attempt attempt;
    private final Targets targets;
    private final BatchPlanner planner;
    private final boolean simple;

    BatchApplying(Attempt attempt, Targets targets, BatchPlanner planner) {
        this.attempt = attempt;
        this.targets = targets;
        this.planner = planner;
        this.simple = attempt.writes().simple();
    }

    /** The work with everything applied that can be; it is not committed. */
    Work applied(BatchInHand hand) {
        int moves = 0;
        while (true) {
            Work work = targets.begin(attempt.unit(hand.batch().number()));
            boolean sound = false;
            try {
                Verdict verdict = apply(work, hand, moves == PATIENCE - 1);
                sound = verdict == Verdict.DONE;
                moves += verdict == Verdict.MOVED ? 1 : 0;
            } finally {
                if (!sound) {
                    work.close();
                }
            }
            if (sound) {
                return work;
            }
            planner.planAnew(hand);
        }
    }

    private enum Verdict {
        DONE,
        /** Rows were refused whose groups had been written elsewhere: begin anew without them. */
        REFUSED,
        /** Somebody else changed records meanwhile: look again. */
        MOVED
    }

    private Verdict apply(Work work, BatchInHand hand, boolean lastTime) {
        int refusedBefore = hand.countRefused();
        for (int w = 0; w < hand.writes(); w++) {
            int[] moved = applyOnce(work, w, hand, hand.changing(w));
            if (moved.length > 0 && simple) {
                planner.decide(w, hand, moved);
                hand.refuseMoved(w, applyOnce(work, w, hand, hand.changing(w, moved)));
            } else if (moved.length > 0 && !lastTime) {
                return Verdict.MOVED;
            } else {
                hand.refuseMoved(w, moved);
            }
            if (!simple && hand.countRefused() > refusedBefore) {
                return Verdict.REFUSED;
            }
        }
        return Verdict.DONE;
    }

    /** Applies one write's changes; the result is the places whose records somebody changed meanwhile. */
    private static int[] applyOnce(Work work, int index, BatchInHand hand, int[] changing) {
        if (changing.length == 0) {
            return changing;
        }
        Part part = hand.part(index);
        Answers answers = part.answers();
        work.apply(index, part.changes(), changing, answers);
        return hand.heard(index, changing);
    }
}
