package dev.nachlauf.service.run;

import dev.nachlauf.api.LeftOutView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowRanges;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The rows of held runs that people leave out. */
@Component
public class LeftOut {
    private final EntityManager entities;
    private final RunTransitions transitions;
    private final Clock clock;

    LeftOut(EntityManager entities, RunTransitions transitions, Clock clock) {
        this.entities = entities;
        this.transitions = transitions;
        this.clock = clock;
    }

    /** Leaves rows out, or takes them in again. Whoever releases the run at the same time comes before or after it. */
    @Transactional
    LeftOutView say(long run, String rows, boolean leftOut, String by) {
        RowRanges ranges = RowRanges.of(rows);
        long known = transitions
                .holdForReview(run)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.RUN_STATE,
                        "Run " + run + " is not held for review, so no row of it can be left out.",
                        "Start the job with --hold.")));
        if (ranges.last() > known) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "Run " + run + " has " + known + " rows.",
                    "Rows are counted from 1."));
        }
        LeftOutWord word = new LeftOutWord();
        word.runId = run;
        word.word = words(run).size() + 1;
        word.rows = ranges.toString();
        word.leftOut = leftOut;
        word.saidBy = by;
        word.saidAt = clock.instant();
        entities.persist(word);
        entities.flush();
        return view(run);
    }

    /** What is left out, and who has said so. */
    @Transactional(readOnly = true)
    public LeftOutView view(long run) {
        RowRanges rows = rows(run);
        return new LeftOutView(
                rows.toString(),
                rows.count(),
                words(run).stream()
                        .map(word -> new LeftOutView.Word(word.rows, word.leftOut, word.saidBy, word.saidAt))
                        .toList());
    }

    /** The rows that are left out. */
    @Transactional(readOnly = true)
    public RowRanges rows(long run) {
        RowRanges rows = new RowRanges();
        for (LeftOutWord word : words(run)) {
            if (word.leftOut) {
                rows.add(RowRanges.of(word.rows));
            } else {
                rows.remove(RowRanges.of(word.rows));
            }
        }
        return rows;
    }

    private List<LeftOutWord> words(long run) {
        return entities.createQuery(
                        "select w from LeftOutWord w where w.runId = :run order by w.word", LeftOutWord.class)
                .setParameter("run", run)
                .getResultList();
    }
}
