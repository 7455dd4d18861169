package dev.nachlauf.service.reject;

import dev.nachlauf.api.FixRejects;
import dev.nachlauf.api.RejectsChosen;
import dev.nachlauf.api.SetRejectsAside;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.plan.TextCondition;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.store.Texts;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What people decide about rejects. Each decision holds the rejects that it is about, so two of them come one after the other. */
@Component
class RejectDecisions {
    private static final int PAGE = 1_000;

    private final RejectRepository rejects;
    private final Runs runs;
    private final EntityManager entities;
    private final Clock clock;

    RejectDecisions(RejectRepository rejects, Runs runs, EntityManager entities, Clock clock) {
        this.rejects = rejects;
        this.runs = runs;
        this.entities = entities;
        this.clock = clock;
    }

    /** Corrects cells of rejected rows; the result is how many rejects that is about. */
    @Transactional
    long fix(FixRejects request, String by) {
        if (request.set().isEmpty()) {
            throw malformed("Nothing is corrected.", "Name a column and what is to stand there: --set beds=12.");
        }
        Set<Long> known = new HashSet<>();
        return change(request.rejects(), Rejects.OPEN, reject -> {
            if (known.add(reject.runId)) {
                requireColumns(reject.runId, request.set().keySet());
            }
            correct(reject, request.set(), by);
        });
    }

    /** Adds corrections to those that a reject has; in a transaction that holds it. */
    void correct(RejectEntity reject, Map<String, String> more, String by) {
        Map<String, String> corrections = new TreeMap<>(reject.corrections);
        more.forEach((column, text) -> corrections.put(column, Texts.storable(text)));
        reject.corrections = corrections;
        decided(reject, by);
    }

    /** Sets rejects aside, or takes them in again; the result is how many. */
    @Transactional
    long setAside(SetRejectsAside request, String by) {
        if (request.aside() && request.note().isBlank()) {
            throw malformed("A note is missing.", "Say why the rows are not to be sent again.");
        }
        Set<Long> counted = new TreeSet<>();
        long changed = change(request.rejects(), request.aside() ? Rejects.OPEN : Rejects.ASIDE, reject -> {
            reject.state = request.aside() ? Rejects.ASIDE : Rejects.OPEN;
            reject.note = Texts.storable(request.note());
            decided(reject, by);
            counted.add(reject.runId);
        });
        entities.flush();
        if (!counted.isEmpty()) {
            rejects.countOpen(List.copyOf(counted));
        }
        return changed;
    }

    private void decided(RejectEntity reject, String by) {
        reject.edition++;
        reject.decidedBy = by;
        reject.decidedAt = clock.instant();
    }

    private static CannotGoOn malformed(String what, String remedy) {
        return new CannotGoOn(Problem.of(ProblemCode.REQUEST_MALFORMED, what, remedy));
    }

    private void requireColumns(long run, Set<String> names) {
        List<String> header = runs.surroundings(run).header();
        for (String name : names) {
            if (!header.contains(name)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FIELD_UNKNOWN,
                        "The source of run " + run + " has no column " + name + ".",
                        "It has: " + String.join(", ", header) + "."));
            }
        }
    }

    private long change(RejectsChosen chosen, String state, Consumer<RejectEntity> change) {
        if (chosen.ids() != null) {
            List<Long> ids = chosen.ids().stream().distinct().toList();
            List<RejectEntity> found = ids.isEmpty() ? List.of() : rejects.locked(ids);
            requireAll(ids, found, state);
            found.forEach(change);
            return found.size();
        }
        if (chosen.run() == null) {
            throw malformed("No rejects are named.", "Name them by their numbers, or those of a run.");
        }
        TextCondition where = condition(chosen.run(), chosen.where());
        long changed = 0;
        long after = 0;
        List<RejectEntity> page;
        do {
            page = rejects.locked(chosen.run(), state, after, Limit.of(PAGE));
            for (RejectEntity reject : page) {
                after = reject.id;
                if (where == null || where.holds(reject.raw)) {
                    change.accept(reject);
                    changed++;
                }
            }
            entities.flush();
            entities.clear();
        } while (page.size() == PAGE);
        return changed;
    }

    private @Nullable TextCondition condition(long run, @Nullable String where) {
        List<SourceColumn> columns = runs.surroundings(run).header().stream()
                .map(name -> SourceColumn.text(new SourceField(name, "")))
                .toList();
        if (where == null) {
            return null;
        }
        List<Problem> problems = new ArrayList<>();
        return TextCondition.of(columns, FormulaSource.of(where), problems).orElseThrow(() -> new CannotGoOn(problems));
    }

    /** Nothing is changed where one of them is not as whoever asks believes. */
    private static void requireAll(List<Long> ids, List<RejectEntity> found, String state) {
        Set<Long> missing = new TreeSet<>(ids);
        List<Problem> problems = new ArrayList<>();
        for (RejectEntity reject : found) {
            missing.remove(reject.id);
            if (reject.sentBy != null) {
                problems.add(otherwise(reject, "is being sent again by run " + reject.sentBy));
            } else if (!reject.state.equals(state)) {
                problems.add(otherwise(reject, otherwise(reject)));
            }
        }
        missing.forEach(id -> problems.add(
                Problem.of(ProblemCode.NOT_FOUND, "There is no reject " + id + ".", "rejects list shows all.")));
        CannotGoOn.overErrorsAmong(problems);
    }

    private static String otherwise(RejectEntity reject) {
        return switch (reject.state) {
            case Rejects.ASIDE -> "was set aside by " + reject.decidedBy + ": " + reject.note;
            case Rejects.CLOSED -> "is closed: its row went through with run " + reject.closedBy;
            default -> "is " + reject.state;
        };
    }

    private static Problem otherwise(RejectEntity reject, String how) {
        return Problem.of(
                ProblemCode.REJECT_STATE,
                "Reject " + reject.id + " " + how + ".",
                "rejects list shows how they are now.");
    }
}
