package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedStep.Key;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Asks for the distinct keys of many rows at once, and remembers the answers up to a bound; what was used least lately is
 * forgotten first. One per thread.
 */
public final class LookupCache {
    /** Answers remembered per lookup. */
    public static final int MOST = 50_000;

    private final RecordFinder finder;
    private final Map<Finding, Map<List<Object>, Found>> answers = new HashMap<>();
    private long questions;

    public LookupCache(RecordFinder finder) {
        this.finder = finder;
    }

    /** How many times a system was asked. */
    public long questions() {
        return questions;
    }

    /** Forgets what was found among records that have been written. */
    public void forget(String connection, String records) {
        answers.keySet()
                .removeIf(finding -> finding.connection().equals(connection)
                        && finding.records().equals(records));
    }

    /** One answer per key, in order; a null key finds nothing. */
    public List<Found> find(Finding finding, List<@Nullable List<Object>> keys) {
        Map<List<Object>, Found> known = answers.computeIfAbsent(finding, any -> bounded());
        Map<List<Object>, Found> here = new HashMap<>();
        List<List<Object>> asked = new ArrayList<>();
        for (List<Object> key : keys) {
            if (key != null && !here.containsKey(key)) {
                Found found = known.get(key);
                here.put(key, found == null ? Found.NOTHING : found);
                if (found == null) {
                    asked.add(key);
                }
            }
        }
        if (!asked.isEmpty()) {
            questions++;
            List<Found> found =
                    finder.find(finding, asked.stream().map(List::toArray).toList());
            for (int i = 0; i < asked.size(); i++) {
                here.put(asked.get(i), found.get(i));
                known.put(asked.get(i), found.get(i));
            }
        }
        List<Found> answer = new ArrayList<>(keys.size());
        for (List<Object> key : keys) {
            answer.add(key == null ? Found.NOTHING : here.getOrDefault(key, Found.NOTHING));
        }
        return answer;
    }

    private static Map<List<Object>, Found> bounded() {
        return new LinkedHashMap<>(16, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<List<Object>, Found> eldest) {
                return size() > MOST;
            }
        };
    }

    /** Runs a lookup step over many rows, all of which have values. */
    void run(PlannedStep.Lookup lookup, List<FlowRow> rows) {
        List<@Nullable List<Object>> keys = new ArrayList<>(rows.size());
        for (FlowRow row : rows) {
            keys.add(key(lookup.finding(), row, lookup.index()));
        }
        List<Found> found = find(lookup.finding(), keys);
        for (int i = 0; i < rows.size(); i++) {
            settle(lookup, rows.get(i), keys.get(i), found.get(i));
        }
    }

    private static @Nullable List<Object> key(Finding finding, FlowRow row, int step) {
        List<Problem> problems = new ArrayList<>(0);
        List<Object> key = key(finding, row, problems);
        problems.forEach(problem -> row.reject(step, problem));
        return key;
    }

    /** The key of a row; null where a part is null, or has no value, which is said then. */
    public static @Nullable List<Object> key(Finding finding, FlowRow row, List<Problem> problems) {
        List<Object> key = new ArrayList<>(finding.keys().size());
        for (Key part : finding.keys()) {
            try {
                Object value = part.formula().evaluator().evaluate(row.slots());
                if (part.fromText() && value instanceof String text) {
                    value = text.isEmpty()
                            ? null
                            : TextParser.of(part.kind(), null, null).parse(text);
                }
                if (value == null) {
                    return null;
                }
                key.add(value instanceof BigDecimal number ? number.stripTrailingZeros() : value);
            } catch (BrokenInput e) {
                return null;
            } catch (ValueProblem problem) {
                problems.add(problem.inField(part.field()));
                return null;
            }
        }
        return key;
    }

    private static void settle(PlannedStep.Lookup lookup, FlowRow row, @Nullable List<Object> key, Found found) {
        boolean taken = found.matches() == 1 || found.matches() > 1 && lookup.firstOfSeveral();
        for (int i = 0; i < lookup.slots().size(); i++) {
            row.slots()[lookup.slots().get(i)] =
                    taken ? found.values()[i] : lookup.emptyWhereNone() ? null : BrokenInput.VALUE;
        }
        if (taken || found.matches() == 0 && lookup.emptyWhereNone()) {
            return;
        }
        if (found.matches() > 1) {
            row.reject(
                    lookup.index(),
                    problem(
                            lookup.finding(),
                            key,
                            ProblemCode.LOOKUP_SEVERAL,
                            "Several records of " + lookup.finding().records() + " have ",
                            "Make the key more exact, or say several: first."));
        } else if (key != null || row.problems().isEmpty()) {
            row.reject(lookup.index(), none(lookup.finding(), key));
        }
    }

    private static Problem none(Finding finding, @Nullable List<Object> key) {
        return problem(
                finding,
                key,
                ProblemCode.LOOKUP_NONE,
                "No record of " + finding.records() + " has ",
                "Correct the value, or add the record there.");
    }

    /** The problem of a reference that leads to no record, or to several. */
    public static Problem missing(Finding finding, String field, @Nullable List<Object> key, Found found) {
        Problem problem = found.matches() == 0
                ? none(finding, key)
                : problem(
                        finding,
                        key,
                        ProblemCode.LOOKUP_SEVERAL,
                        "Several records of " + finding.records() + " have ",
                        "Make the key more exact.");
        String shown = problem.place() instanceof Place.InField place ? String.valueOf(place.value()) : "";
        return Problem.inField(problem.code(), field, shown, problem.sentence(), problem.remedy());
    }

    private static Problem problem(
            Finding finding, @Nullable List<Object> key, ProblemCode code, String start, String remedy) {
        String fields = String.join(" + ", finding.keyFields());
        String shown = key == null
                ? "(empty)"
                : key.stream()
                        .map(part -> Values.shortened(String.valueOf(Values.text(part))))
                        .collect(Collectors.joining(" · "));
        return Problem.inField(code, fields, shown, start + fields + " = " + shown + ".", remedy);
    }
}
