package dev.nachlauf.service.run;

import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.run.UndoRun;
import dev.nachlauf.service.store.Json;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Has a second person look before sensitive values change that records hold already, or records go that hold such values.
 * Whoever has started the run can't be that person.
 */
@Component
class SecondPerson {
    private final LedgerOfRun ledger;

    SecondPerson(LedgerOfRun ledger) {
        this.ledger = ledger;
    }

    /** The result of a run that has planned all of its source: it waits where sensitive values would change. */
    RunResult checked(RunEntity run, RunResult result) {
        boolean ended = result.state() == RunState.FINISHED || result.state() == RunState.HELD;
        if (!ended || !run.planning() && run.runMode().moves()) {
            return result;
        }
        RunSums sums = RunSums.of(ledger.chunks(run.id, run.stage()).chunks());
        Map<String, Long> values = values(run, sums);
        Map<String, Long> records = records(run, sums);
        if (values.isEmpty() && records.isEmpty()) {
            return result;
        }
        return run.runMode().moves() ? held(run, result, sentence(values, records)) : foreseen(result, values, records);
    }

    /** Why a run that takes another back waits before it does anything; empty where no sensitive value would change. */
    static Optional<Problem> beforeUndo(RunEntity run, UndoRun undo) {
        if (run.releasedAt != null
                || run.writes.stream().allMatch(write -> write.sensitive().isEmpty())) {
            return Optional.empty();
        }
        Map<String, Long> values = new TreeMap<>();
        Map<String, Long> records = new TreeMap<>();
        undo.foresee(line -> {
            Json.RunWrite write = run.writes.get(line.write());
            if (line.outcome() == Outcome.UPDATED) {
                line.changed().stream()
                        .mapToObj(write.fields()::get)
                        .filter(write.sensitive()::contains)
                        .forEach(field -> values.merge(name(write, field), 1L, Long::sum));
            } else if (line.outcome() == Outcome.DELETED && !write.sensitive().isEmpty()) {
                records.merge(write.records(), 1L, Long::sum);
            }
        });
        return values.isEmpty() && records.isEmpty()
                ? Optional.empty()
                : Optional.of(reason(
                        sentence(values, records),
                        "Somebody other than " + run.startedBy + " looks at what run " + run.undoes
                                + " has written, and releases this run or discards it."));
    }

    private static String name(Json.RunWrite write, String field) {
        return write.main() ? field : write.name() + "." + field;
    }

    private static Map<String, Long> values(RunEntity run, RunSums sums) {
        Map<String, Long> values = new TreeMap<>();
        for (Json.RunWrite write : run.writes) {
            for (String field : write.sensitive()) {
                String name = name(write, field);
                // both writes of a job with two keys have the same name, and are counted together
                values.put(name, sums.changedFields().getOrDefault(name, 0L));
            }
        }
        values.values().removeIf(count -> count == 0);
        return values;
    }

    private static Map<String, Long> records(RunEntity run, RunSums sums) {
        return RunBalances.writes(run, sums).stream()
                .filter(write -> write.deleted() > 0 && !write.sensitive().isEmpty())
                .collect(Collectors.toMap(WriteCountView::records, WriteCountView::deleted, Long::sum, TreeMap::new));
    }

    private static String sentence(Map<String, Long> values, Map<String, Long> records) {
        List<String> parts = new ArrayList<>();
        if (!values.isEmpty()) {
            parts.add(counted(values, "value of a sensitive field", "values of sensitive fields") + " would change ("
                    + listed(values) + ")");
        }
        if (!records.isEmpty()) {
            parts.add(counted(records, "record that holds such a value", "records that hold such values")
                    + " would go (" + listed(records) + ")");
        }
        return String.join(", and ", parts) + ".";
    }

    private static String counted(Map<String, Long> counts, String one, String several) {
        long all = counts.values().stream().mapToLong(Long::longValue).sum();
        return all + " " + (all == 1 ? one : several);
    }

    private static String listed(Map<String, Long> counts) {
        return counts.entrySet().stream()
                .map(count -> count.getKey() + " " + count.getValue())
                .collect(Collectors.joining(", "));
    }

    private static RunResult held(RunEntity run, RunResult result, String sentence) {
        List<Problem> reasons = new ArrayList<>(result.reasons());
        reasons.add(reason(
                sentence,
                "Somebody other than " + run.startedBy
                        + " looks at what is planned, and releases the run or discards it."));
        return new RunResult(RunState.HELD, reasons, result.warnings(), result.balance());
    }

    private static Problem reason(String sentence, String remedy) {
        return Problem.of(ProblemCode.SENSITIVE_CHANGE, sentence, remedy);
    }

    private static RunResult foreseen(RunResult result, Map<String, Long> values, Map<String, Long> records) {
        List<Problem> warnings = new ArrayList<>(result.warnings());
        warnings.add(Problem.of(
                ProblemCode.LIMIT_FORESEEN,
                "A load of these rows waits for a second person: " + sentence(values, records),
                "Ask somebody to be there."));
        return new RunResult(result.state(), result.reasons(), warnings, result.balance());
    }

    /**
     * Lets whoever may release the run pass.
     *
     * @throws CannotGoOn with {@code second-person} where it waits for somebody else
     */
    static void require(RunEntity run, String by) {
        boolean waits =
                run.reasons.stream().anyMatch(reason -> reason.code().equals(ProblemCode.SENSITIVE_CHANGE.id()));
        if (waits && by.equals(run.startedBy)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SECOND_PERSON,
                    "Run " + run.id + " changes sensitive values, and " + by + " has started it.",
                    "Somebody else releases it, with a token of their own."));
        }
    }
}
