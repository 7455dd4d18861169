package dev.nachlauf.service.job;

import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.job.JobPreparation.Circumstances;
import dev.nachlauf.service.job.JobSources.FirstLook;
import dev.nachlauf.service.web.ProblemViews;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Checks jobs against everything that can be looked at now. */
@Service
class JobChecks {
    /** Rows of the source that a check tries. */
    private static final int TRIED = 200;

    private final JobSources sources;
    private final JobPreparation preparation;

    private final ScratchSpace scratchSpace;

    JobChecks(JobSources sources, JobPreparation preparation, ScratchSpace scratchSpace) {
        this.scratchSpace = scratchSpace;
        this.sources = sources;
        this.preparation = preparation;
    }

    /**
     * Checks a job.
     *
     * @param problems what is wrong with it; added to
     * @param seen what was looked at, for people; added to
     * @param tryRows whether the first rows are tried as well, which says nothing of the job but of its source today
     */
    void check(
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            List<Problem> problems,
            List<String> seen,
            boolean tryRows) {
        sources.checkFormat(job, problems);
        try (ScratchFolder scratch = scratchSpace.create()) {
            Optional<FirstLook> look = firstLook(job, parameters, scratch.path(), problems);
            look.ifPresent(found -> seen.add(found.seen()));
            List<Problem> planned = new ArrayList<>();
            try (PreparedJob prepared = preparation.prepare(
                    job,
                    Circumstances.newest(parameters),
                    look.map(FirstLook::columns).orElseGet(() -> unseen(job)),
                    () -> look.orElseThrow().open().get(),
                    planned)) {
                planned.removeIf(problem -> look.isEmpty() && problem.code() == ProblemCode.FIELD_UNKNOWN);
                problems.addAll(planned);
                job.tells().forEach(tell -> prepared.systems().checkTell(tell, problems));
                seen.addAll(prepared.systems().targets());
                if (prepared.sound().isPresent()) {
                    examples(job, prepared, problems, seen);
                    look.filter(found -> tryRows)
                            .ifPresent(found -> tryRows(found, prepared, scratch.path(), problems));
                }
            }
        }
    }

    private Optional<FirstLook> firstLook(
            JobDefinition job, Map<String, @Nullable Object> parameters, Path scratch, List<Problem> problems) {
        try {
            return sources.firstLook(job, parameters, null, scratch, problems);
        } catch (CannotGoOn e) {
            problems.addAll(e.problems());
            return Optional.empty();
        }
    }

    private static void examples(JobDefinition job, PreparedJob prepared, List<Problem> problems, List<String> seen) {
        if (!job.examples().isEmpty()) {
            List<Problem> failed = prepared.failedExamples();
            problems.addAll(failed);
            int all = job.examples().size();
            seen.add(all - failed.size() + " of " + all + (all == 1 ? " example" : " examples"));
        }
    }

    /** Warns of rows that would be rejected; that may be as it should be, so the job is sound all the same. */
    private static void tryRows(FirstLook look, PreparedJob prepared, Path scratch, List<Problem> problems) {
        try {
            List<TargetRow> rows = prepared.firstRows(TRIED, scratch);
            List<TargetRow> rejected = rows.stream().filter(TargetRow::rejected).toList();
            if (rejected.isEmpty()) {
                return;
            }
            TargetRow row = rejected.getFirst();
            Problem first = row.problems().getFirst();
            List<@Nullable String> raw =
                    Arrays.stream(row.row().source().cells()).map(Values::text).toList();
            List<String> header =
                    prepared.columns().stream().map(SourceColumn::name).toList();
            String shown = JobTrials.masked(prepared.plan())
                    .problem(ProblemViews.of(first), header, raw)
                    .sentence();
            problems.add(Problem.of(
                    ProblemCode.ROWS_WOULD_FAIL,
                    rejected.size() + " of the first " + rows.size() + " rows of " + look.name() + " would be rejected"
                            + (rejected.size() == 1 ? ": " : ", the first of them: ")
                            + place(row, first) + ": " + shown,
                    "job try shows them all."));
        } catch (CannotGoOn e) {
            problems.addAll(e.problems());
        }
    }

    private static String place(TargetRow row, Problem problem) {
        String rowsPlace = row.row().source().origin().text();
        return problem.place() instanceof Place.InField in ? rowsPlace + ", " + in.field() : rowsPlace;
    }

    private static List<SourceColumn> unseen(JobDefinition job) {
        return job.read().fields().stream()
                .map(field -> field.name().value())
                .map(name -> SourceColumn.text(new SourceField(name, "")))
                .toList();
    }
}
