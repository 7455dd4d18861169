package dev.nachlauf.service.record;

import dev.nachlauf.api.VerificationView;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.run.Verification;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.look.RowWatch;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.run.RunPreparation;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.WrittenRun;
import dev.nachlauf.service.web.Masked;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;

/** Compares what a run has written with what is there now. */
@Component
class RunVerification {
    private final LedgerOfRun ledger;
    private final RunViews runs;
    private final JobPreparation preparation;
    private final RunPreparation jobOfRun;

    RunVerification(LedgerOfRun ledger, RunViews runs, JobPreparation preparation, RunPreparation jobOfRun) {
        this.ledger = ledger;
        this.runs = runs;
        this.preparation = preparation;
        this.jobOfRun = jobOfRun;
    }

    /**
     * Compares all that the run has changed, or a sample.
     *
     * @param sample how many records; empty for all
     */
    VerificationView verify(long id, OptionalLong sample, long seed) {
        if (sample.isPresent() && sample.getAsLong() < 1) {
            throw new CannotGoOn(Problem.of(ProblemCode.REQUEST_MALFORMED, "A sample has at least one record.", ""));
        }
        if (runs.show(id).balance().issued() > 0) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.RUN_STATE,
                    "Run " + id + " has issued files, so there are no records to be read back.",
                    "Compare it with an export of the system that has them: run confirm " + id + " --file EXPORT."));
        }
        WrittenRun run = runs.written(id);
        if (jobOfRun.addsToFiles(id)) {
            try (PreparedJob job = jobOfRun.overFilesAsTheyAre(id)) {
                job.plan();
                return compared(id, run, job.systems(), sample, seed);
            }
        }
        try (JobSystems systems = ChosenEnvironment.during(run.environment(), preparation::systems)) {
            return compared(id, run, systems, sample, seed);
        }
    }

    private VerificationView compared(long id, WrittenRun run, JobSystems systems, OptionalLong sample, long seed) {
        Verification.Result result = new Verification(
                        run.writes(), ledger.chunks(id, LedgerStage.WRITTEN), systems::target, RowWatch::row)
                .compare(sample, seed);
        return new VerificationView(
                id,
                result.asked(),
                result.equal(),
                result.differ(),
                result.gone(),
                seed,
                result.differences().stream()
                        .map(difference -> view(run, difference))
                        .toList());
    }

    private static VerificationView.Difference view(WrittenRun run, Verification.Difference difference) {
        int number = difference.line().write();
        LedgerWrites.Write write = run.writes().writes().get(number);
        String found = !difference.gone()
                ? "differs"
                : difference.line().outcome() == Outcome.DELETED ? "there again" : "gone";
        return new VerificationView.Difference(
                difference.line().number(),
                write.name(),
                difference.line().shownKey(write.key().size()),
                found,
                difference.fields().stream()
                        .map(field -> {
                            String name = write.fields().get(field.field());
                            boolean masked = run.sensitive().get(number).contains(name);
                            return new VerificationView.Field(
                                    name,
                                    Masked.value(Values.text(field.written()), masked),
                                    Masked.value(Values.text(field.stored()), masked));
                        })
                        .toList());
    }
}
