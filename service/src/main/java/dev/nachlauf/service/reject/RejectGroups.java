package dev.nachlauf.service.reject;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RejectGroup;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import jakarta.persistence.EntityManager;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How many rejected rows have which reason, commonest first. */
@Component
public class RejectGroups {
    private static final int PAGE = 1_000;

    /** Nobody reads more lines than that. */
    private static final int MOST = 1_000;

    private static final Comparator<RejectGroup> COMMONEST = Comparator.comparing(RejectGroup::count)
            .reversed()
            .thenComparing(RejectGroup::code)
            .thenComparing(RejectGroup::field)
            .thenComparing(group -> Objects.requireNonNullElse(group.value(), ""))
            .thenComparing(RejectGroup::byTarget);

    private final Rejects rejects;
    private final EntityManager entities;

    RejectGroups(Rejects rejects, EntityManager entities) {
        this.rejects = rejects;
        this.entities = entities;
    }

    /**
     * The groups of a run, of a job, or of all.
     *
     * @param by {@code code}; {@code field}, within the codes; or {@code value}, within the fields
     */
    @Transactional(readOnly = true)
    public List<RejectGroup> of(@Nullable Long run, @Nullable String job, String by) {
        return switch (by) {
            case "code" -> counted(run, job, "''");
            case "field" -> counted(run, job, "coalesce(p ->> 'field', '')");
            case "value" -> byValue(run, job);
            default ->
                throw new CannotGoOn(Problem.of(
                        ProblemCode.REQUEST_MALFORMED,
                        "Rejects can't be grouped by " + by + ".",
                        "Group them by code, field or value."));
        };
    }

    private List<RejectGroup> counted(@Nullable Long run, @Nullable String job, String field) {
        String whose = run != null
                ? "(r.run_id = :run OR r.again_in = :run)"
                : job != null ? "r.run_id IN (SELECT id FROM run WHERE job_name = :job)" : "true";
        // rejects of no row of the source are told apart by their own numbers
        var query = entities.createNativeQuery(
                "SELECT p ->> 'code', " + field + ", r.by_target, count(DISTINCT (r.run_id,"
                        + " CASE WHEN r.row_number = 0 THEN -r.id ELSE r.row_number END))"
                        + " FROM reject r CROSS JOIN LATERAL jsonb_array_elements(r.problems::jsonb) p"
                        + " WHERE r.state <> 'closed' AND " + whose
                        + " GROUP BY 1, 2, 3 ORDER BY 4 DESC, 1, 2, 3 LIMIT " + MOST,
                Object[].class);
        if (run != null) {
            query.setParameter("run", run);
        } else if (job != null) {
            query.setParameter("job", job);
        }
        List<?> found = query.getResultList();
        return found.stream()
                .map(Object[].class::cast)
                .map(line -> new RejectGroup(
                        (String) line[0], (String) line[1], null, (Boolean) line[2], ((Number) line[3]).longValue()))
                .toList();
    }

    /** A reason, and a row of the source that has it. */
    private record Seen(String code, String field, @Nullable String value, boolean byTarget) {}

    /** Counted here and not by the database, for what is masked depends on the whole row. */
    private List<RejectGroup> byValue(@Nullable Long run, @Nullable String job) {
        Map<Seen, Long> counts = new HashMap<>();
        Set<Seen> ofRow = new HashSet<>();
        RejectView last = null;
        String cursor = null;
        do {
            Page<RejectView> page = rejects.list(run, job, false, cursor, PAGE);
            for (RejectView reject : page.items()) {
                if (last == null || reject.row() == 0 || reject.row() != last.row() || reject.run() != last.run()) {
                    ofRow.clear();
                }
                last = reject;
                for (ProblemView problem : reject.problems()) {
                    Seen seen = new Seen(
                            problem.code(),
                            Objects.requireNonNullElse(problem.field(), ""),
                            problem.value(),
                            reject.byTarget());
                    if (ofRow.add(seen)) {
                        counts.merge(seen, 1L, Long::sum);
                    }
                }
            }
            cursor = page.next();
            // what is shown is not read a second time
            entities.clear();
        } while (cursor != null);
        return counts.entrySet().stream()
                .map(entry -> new RejectGroup(
                        entry.getKey().code(),
                        entry.getKey().field(),
                        entry.getKey().value(),
                        entry.getKey().byTarget(),
                        entry.getValue()))
                .sorted(COMMONEST)
                .limit(MOST)
                .toList();
    }
}
