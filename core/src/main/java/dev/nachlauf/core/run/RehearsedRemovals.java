package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import java.util.HashMap;
import java.util.Map;
import java.util.stream.IntStream;

/** What targets say of removals that are sent to them in a rehearsal, beside what was foreseen. */
final class RehearsedRemovals implements Objections {
    private final Attempt attempt;
    private final Targets targets;
    private final Objections foreseen;

    /** @param targets at which a rehearsal is under way */
    RehearsedRemovals(Attempt attempt, Targets targets, Objections foreseen) {
        this.attempt = attempt;
        this.targets = targets;
        this.foreseen = foreseen;
    }

    @Override
    public Map<Integer, Objection> of(int write, ChangeSet changes, int[] changing) {
        Map<Integer, Objection> refused = new HashMap<>(foreseen.of(write, changes, changing));
        int[] going = IntStream.of(changing)
                .filter(place -> !refused.containsKey(place))
                .toArray();
        if (going.length == 0) {
            return refused;
        }
        Answers answers = new Answers(changes);
        try (Work work = targets.begin(attempt.unit(0))) {
            work.apply(write, changes, going, answers);
            work.commit();
        }
        for (int place : going) {
            if (answers.kind(place) == Answers.Kind.REFUSED) {
                refused.put(place, new Objection(answers.problems(place), true));
            }
        }
        return refused;
    }
}
