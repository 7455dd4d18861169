package dev.nachlauf.service.reject;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.service.ledger.RejectSink;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.run.Runs.Surroundings;
import dev.nachlauf.service.store.Texts;
import dev.nachlauf.service.web.Cursors;
import dev.nachlauf.service.web.ProblemViews;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps rejects and shows them. */
@Service
public class Rejects implements RejectSink {
    static final String OPEN = "open";
    static final String ASIDE = "set-aside";
    /** Its row has gone through. */
    static final String CLOSED = "closed";
    /** Of a row that a held run has not written yet. */
    private static final String FORESEEN = "foreseen";

    private static final int PAGE = 1_000;

    /** So many are shown of a run that is only planned. */
    private static final long MOST_FORESEEN = 10_000;

    private final RejectRepository rejects;
    private final EntityManager entities;
    private final ObjectProvider<Runs> runs;
    private final Clock clock;

    /** The runs are looked up late, for they themselves are built on the ledger that adds rejects here. */
    Rejects(RejectRepository rejects, EntityManager entities, ObjectProvider<Runs> runs, Clock clock) {
        this.rejects = rejects;
        this.entities = entities;
        this.runs = runs;
        this.clock = clock;
    }

    @Override
    public void add(long run, List<Reject> rows) {
        add(run, rows, OPEN);
    }

    @Override
    public void foresee(long run, List<Reject> rows) {
        rejects.forget(run, FORESEEN);
        add(run, rows, FORESEEN);
    }

    @Override
    public long foreseeMore(long run, List<Reject> rows) {
        long shown = rejects.countByRunIdAndState(run, FORESEEN);
        List<Reject> more =
                rows.stream().limit(Math.max(0, MOST_FORESEEN - shown)).toList();
        add(run, more, FORESEEN);
        return shown + more.size();
    }

    private void add(long run, List<Reject> rows, String state) {
        if (rows.isEmpty()) {
            return;
        }
        Iterator<Long> ids = rejects.newIds(rows.size()).iterator();
        for (Reject row : rows) {
            List<ProblemView> problems = ProblemViews.of(row.problems());
            RejectEntity entity = new RejectEntity();
            entity.id = ids.next();
            entity.runId = run;
            entity.rowNumber = row.number();
            entity.position = row.position();
            entity.rows = row.rows();
            entity.line = row.origin().line();
            entity.file = Texts.storable(row.origin().file());
            entity.sheet = Texts.storable(row.origin().sheet());
            entity.path = Texts.storable(row.origin().path());
            entity.key = Texts.storable(row.key());
            entity.raw = row.cells();
            entity.problems = problems;
            entity.code = problems.getFirst().code();
            entity.field = Texts.storable(
                    Objects.requireNonNullElse(problems.getFirst().field(), ""));
            entity.state = state;
            entity.byTarget = row.byTarget();
            entity.createdAt = clock.instant();
            entities.persist(entity);
        }
    }

    /** A page of rejects in the order in which they were kept; of one run or one job, or of all. */
    @Transactional(readOnly = true)
    public Page<RejectView> list(
            @Nullable Long run, @Nullable String job, boolean closed, @Nullable String cursor, int asked) {
        int limit = Cursors.limit(asked);
        long after = Cursors.one(cursor, 0);
        Limit more = Limit.of(limit + 1);
        String without = closed ? "" : CLOSED;
        List<RejectEntity> found = run != null
                ? rejects.ofRun(run, without, after, more)
                : job != null ? rejects.ofJob(job, without, after, more) : rejects.all(without, after, more);
        Map<Long, Surroundings> known = new HashMap<>();
        List<RejectView> items = found.stream()
                .limit(limit)
                .map(entity -> view(
                        entity,
                        known.computeIfAbsent(
                                entity.runId, id -> runs.getObject().surroundings(id))))
                .toList();
        return new Page<>(
                items, found.size() > limit ? String.valueOf(items.getLast().id()) : null);
    }

    /** An open reject and what is wrong with it. */
    public record Lacking(long id, List<ProblemView> problems) {}

    /** Every open reject that lacks a translation, in order: those of a run, or of all. */
    @Transactional(readOnly = true)
    public void lackingTranslations(@Nullable Long run, Consumer<Lacking> use) {
        long after = 0;
        List<RejectEntity> page;
        do {
            page = rejects.openWith("%\"" + ProblemCode.NO_TRANSLATION.id() + "\"%", OPEN, after, Limit.of(PAGE));
            for (RejectEntity reject : page) {
                if (run == null || reject.runId == run) {
                    use.accept(new Lacking(reject.id, reject.problems));
                }
                after = reject.id;
            }
        } while (page.size() == PAGE);
    }

    static RejectView view(RejectEntity entity, Surroundings run) {
        return new RejectView(
                entity.id,
                entity.runId,
                run.job(),
                entity.file,
                entity.rowNumber,
                entity.rows,
                entity.line,
                place(entity),
                entity.key,
                run.header(),
                run.masked().cells(run.header(), entity.raw),
                entity.problems.stream()
                        .map(problem -> run.masked().problem(problem, run.header(), entity.raw))
                        .toList(),
                entity.byTarget,
                entity.state,
                entity.attempts,
                entity.edition,
                run.masked().values(entity.corrections),
                entity.note,
                entity.decidedBy,
                entity.sentBy,
                entity.closedBy,
                entity.createdAt);
    }

    private static String place(RejectEntity reject) {
        String first = new Origin(reject.file, reject.sheet, reject.line, reject.path).text();
        return reject.rows > 1 ? first + " and " + (reject.rows - 1) + " more" : first;
    }
}
