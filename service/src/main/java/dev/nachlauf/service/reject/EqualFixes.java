package dev.nachlauf.service.reject;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.run.Runs.Surroundings;
import jakarta.persistence.EntityManager;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Corrections that people have made several times in the same way. */
@Component
public class EqualFixes {
    /** So many equal ones are no accident. */
    private static final int SEVERAL = 3;

    private static final int PAGE = 1_000;

    /** So many rejects are looked at, the newest first: what was corrected long ago is no habit any more. */
    private static final int LOOKED_AT = 20_000;

    private final RejectRepository rejects;
    private final Runs runs;
    private final EntityManager entities;

    EqualFixes(RejectRepository rejects, Runs runs, EntityManager entities) {
        this.rejects = rejects;
        this.runs = runs;
        this.entities = entities;
    }

    /**
     * A correction.
     *
     * @param from what stood in the column, and {@code to}, what was put there; never empty
     * @param unreadable whether the reader could make nothing of what stood there, so no step can either
     */
    public record Fix(String job, String column, String from, String to, boolean unreadable) {}

    /**
     * A correction that was made several times.
     *
     * @param rows of how many rows
     * @param waiting how many open rejects of the job have that value, and nobody has corrected it
     */
    public record Known(Fix fix, long rows, long waiting) {}

    /** Those that were made at least three times, commonest first; nothing of what is kept from those who look. */
    @Transactional(readOnly = true)
    public List<Known> all() {
        Map<Fix, Long> counts = new HashMap<>();
        Map<Long, Surroundings> known = new HashMap<>();
        Set<List<Long>> rows = new HashSet<>();
        each(before -> rejects.corrected(before, Limit.of(PAGE)), reject -> {
            Surroundings run = known.computeIfAbsent(reject.runId, runs::surroundings);
            if (rows.add(List.of(reject.runId, reject.rowNumber))) {
                reject.corrections.forEach((column, to) -> {
                    String from = cell(reject, run, column);
                    if (!from.isBlank()
                            && !to.isBlank()
                            && !run.masked().columns().contains(column)) {
                        Fix fix = new Fix(run.job(), column, from, to, isUnreadable(reject, column));
                        counts.merge(fix, 1L, Long::sum);
                    }
                });
            }
        });
        counts.values().removeIf(count -> count < SEVERAL);
        Map<Fix, Long> waiting = waiting(counts.keySet(), known);
        return counts.entrySet().stream()
                .map(entry -> new Known(entry.getKey(), entry.getValue(), waiting.getOrDefault(entry.getKey(), 0L)))
                .sorted(Comparator.comparing(Known::rows)
                        .reversed()
                        .thenComparing(one -> one.fix().toString()))
                .toList();
    }

    /** The open rejects of each job are looked at once, however many of its fixes are known. */
    private Map<Fix, Long> waiting(Set<Fix> fixes, Map<Long, Surroundings> known) {
        Map<Fix, Long> waiting = new HashMap<>();
        fixes.stream().collect(Collectors.groupingBy(Fix::job)).forEach((job, ofJob) -> {
            Set<List<Long>> rows = new HashSet<>();
            each(before -> rejects.openOfJob(job, before, Limit.of(PAGE)), reject -> {
                Surroundings run = known.computeIfAbsent(reject.runId, runs::surroundings);
                if (rows.add(List.of(reject.runId, reject.rowNumber))) {
                    ofJob.stream()
                            .filter(fix -> !reject.corrections.containsKey(fix.column())
                                    && cell(reject, run, fix.column()).equals(fix.from()))
                            .forEach(fix -> waiting.merge(fix, 1L, Long::sum));
                }
            });
        });
        return waiting;
    }

    private interface Pages {
        List<RejectEntity> before(long id);
    }

    private interface Use {
        void of(RejectEntity reject);
    }

    private void each(Pages pages, Use use) {
        long before = Long.MAX_VALUE;
        List<RejectEntity> page;
        int looked = 0;
        do {
            page = pages.before(before);
            page.forEach(use::of);
            before = page.isEmpty() ? 0 : page.getLast().id;
            looked += page.size();
            entities.clear();
        } while (page.size() == PAGE && looked < LOOKED_AT);
    }

    private static String cell(RejectEntity reject, Surroundings run, String column) {
        int index = run.header().indexOf(column);
        return index < 0 || index >= reject.raw.size() ? "" : Objects.requireNonNullElse(reject.raw.get(index), "");
    }

    private static boolean isUnreadable(RejectEntity reject, String column) {
        return reject.problems.stream()
                .anyMatch(problem -> column.equals(problem.field())
                        && (problem.code().equals(ProblemCode.VALUE_MALFORMED.id())
                                || problem.code().equals(ProblemCode.CELL_ERROR.id())));
    }
}
