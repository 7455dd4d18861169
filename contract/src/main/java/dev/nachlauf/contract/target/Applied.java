package dev.nachlauf.contract.target;

import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Target;
import java.util.List;
import java.util.stream.IntStream;

/** Applies changes as the engine does, and gives the answers as objects. */
public final class Applied {
    private Applied() {}

    /** The answers, in the order of the changes. */
    public static List<Answer> with(Target target, Target.Unit unit, List<? extends Change> changes) {
        ChangeSet set = ChangeSet.of(target.cells(), changes);
        int[] all = IntStream.range(0, changes.size()).toArray();
        int[] inserts = IntStream.of(all)
                .filter(row -> set.kind(row) == ChangeSet.Kind.INSERT && set.idAt(row) < 0)
                .toArray();
        if (target instanceof ReservesIds reserves && inserts.length > 0) {
            reserves.reserve(set, inserts);
        }
        Answers answers = new Answers(set);
        unit.apply(set, all, answers);
        return IntStream.of(all).mapToObj(row -> answers.get(row, set)).toList();
    }
}
