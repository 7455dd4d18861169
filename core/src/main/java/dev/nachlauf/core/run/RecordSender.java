package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target;
import java.util.stream.IntStream;

/**
 * Sends changes to a target that answers record by record. Where an answer is lost, the record is looked up by its key:
 * what is there is done, what is not there yet is sent once more, and what is neither is never sent again.
 */
final class RecordSender {
    private final Targets targets;

    RecordSender(Targets targets) {
        this.targets = targets;
    }

    /** Sends some changes of a write; afterwards each of them has an answer. */
    void send(Work work, int write, ChangeSet changes, int[] which, Answers answers) {
        if (which.length == 0) {
            return;
        }
        work.apply(write, changes, which, answers);
        int[] again = lookUp(write, changes, unknown(which, answers), answers);
        if (again.length > 0) {
            IntStream.of(again).forEach(answers::forget);
            work.apply(write, changes, again, answers);
            // whoever is not heard a second time is asked after once more, and then left alone
            lookUp(write, changes, unknown(again, answers), answers);
        }
    }

    private static int[] unknown(int[] which, Answers answers) {
        return IntStream.of(which)
                .filter(row -> answers.kind(row) == Answers.Kind.UNKNOWN)
                .toArray();
    }

    /** Notes what is done after all; the result is what is not done yet. */
    private int[] lookUp(int write, ChangeSet changes, int[] unknown, Answers answers) {
        if (unknown.length == 0) {
            return unknown;
        }
        Target target = targets.of(write);
        StoredNow now = StoredNow.of(target, changes, unknown);
        for (int row : unknown) {
            if (now.as(row) == StoredNow.As.AFTER) {
                if (changes.kind(row) == ChangeSet.Kind.INSERT) {
                    answers.done(row, now.id(row));
                } else {
                    answers.done(row);
                }
            }
        }
        return IntStream.of(unknown)
                .filter(row -> now.as(row) == StoredNow.As.BEFORE)
                .toArray();
    }
}
