package dev.nachlauf.service.run;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.core.job.ControlTotals;
import dev.nachlauf.core.load.ControlTotal;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.ControlSums;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.job.PreparedJob;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** Adds up what a job wants added up when a run has come to its end, and says what follows where figures differ. */
@Component
class RunProof {
    private final RunFacts facts;

    RunProof(RunFacts facts) {
        this.facts = facts;
    }

    /**
     * What a run is proved with.
     *
     * @param folder for what spills to disk
     */
    record Means(long epoch, PreparedJob job, RunRecords records, Path folder, RunWatch watch) {
        Plan plan() {
            return job.plan();
        }

        ControlTotals totals() {
            return plan().job().totals();
        }
    }

    /** Counts the records of the targets before anything is written to them; a later attempt leaves the count alone. */
    void begin(RunEntity run, Means means) {
        if (means.totals().records() && !run.planning() && run.recordsBefore == null) {
            Map<String, Long> before = RecordCounts.of(means.plan(), means.job().systems());
            facts.noteRecordsBefore(run.id, means.epoch(), before);
            run.recordsBefore = before;
        }
    }

    /** The result of a run with what its figures say. */
    RunResult checked(RunEntity run, Means means, RunResult result) {
        boolean finished = result.state() == RunState.FINISHED;
        if (means.totals().isEmpty() || !finished && result.state() != RunState.HELD) {
            return result;
        }
        boolean written = finished && !run.planning();
        List<ControlTotal> sums = ControlSums.of(
                means.plan(),
                means.job()::read,
                means.records(),
                means.job().systems()::target,
                written,
                means.folder(),
                means.watch());
        List<ControlTotalsView.Records> records = written && means.totals().records()
                ? RecordCounts.compared(
                        Objects.requireNonNull(run.recordsBefore),
                        RecordCounts.of(means.plan(), means.job().systems()),
                        means.plan(),
                        result.balance())
                : List.of();
        ProofSentences sentences = new ProofSentences(
                run.choice().isPart(), written, means.totals().fails());
        facts.noteTotals(run.id, means.epoch(), sentences.view(sums, records));
        List<Problem> differences = sentences.differences(sums, records);
        return differences.isEmpty() ? result : differing(run, means, result, differences);
    }

    private static RunResult differing(RunEntity run, Means means, RunResult result, List<Problem> differences) {
        boolean dry = run.planning() && !run.isPlannedFirst();
        if (run.beyondLimit || dry) {
            List<Problem> warnings = new ArrayList<>(result.warnings());
            differences.forEach(difference -> warnings.add(Problem.of(
                    dry ? ProblemCode.LIMIT_FORESEEN : ProblemCode.TOTAL_ACCEPTED, difference.sentence(), "")));
            return new RunResult(result.state(), result.reasons(), warnings, result.balance());
        }
        List<Problem> reasons = new ArrayList<>(result.reasons());
        reasons.addAll(differences);
        RunState state = means.totals().fails() ? RunState.FAILED : RunState.HELD;
        return new RunResult(state, reasons, result.warnings(), result.balance());
    }
}
