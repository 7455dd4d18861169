package dev.nachlauf.service.job;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.JobTrial;
import dev.nachlauf.api.JobTrial.TrialField;
import dev.nachlauf.api.JobTrial.TrialRecord;
import dev.nachlauf.api.JobTrial.TrialRow;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.plan.SensitiveColumns;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.job.JobPreparation.Circumstances;
import dev.nachlauf.service.job.JobSources.FirstLook;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.web.Masked;
import dev.nachlauf.service.web.ProblemViews;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Tries jobs on the first rows of their sources, while they are being written. */
@Service
class JobTrials {
    private static final int MOST_ROWS = 200;

    private final Jobs jobs;
    private final JobParameters parameters;
    private final JobSources sources;
    private final JobPreparation preparation;
    private final FileStore files;
    private final Connections connections;

    private final ScratchSpace scratchSpace;

    JobTrials(
            Jobs jobs,
            JobParameters parameters,
            JobSources sources,
            JobPreparation preparation,
            FileStore files,
            Connections connections,
            ScratchSpace scratchSpace) {
        this.scratchSpace = scratchSpace;
        this.jobs = jobs;
        this.parameters = parameters;
        this.sources = sources;
        this.preparation = preparation;
        this.files = files;
        this.connections = connections;
    }

    /**
     * Tries a document.
     *
     * @param source the hash of a file that is read instead of what the job names; null for that
     */
    JobTrial of(String fileName, String document, @Nullable String source, @Nullable String sourceName, int rows) {
        List<Problem> problems = new ArrayList<>();
        Optional<JobDefinition> job = jobs.read(new SourceText(fileName, document), Pins.NEWEST, problems);
        FileView given = source == null ? null : files.find(source, Objects.requireNonNullElse(sourceName, "upload"));
        if (job.isPresent()) {
            try (ScratchFolder scratch = scratchSpace.create()) {
                return tried(job.get(), given, Math.clamp(rows, 1, MOST_ROWS), scratch, problems);
            } catch (CannotGoOn e) {
                problems.addAll(e.problems());
            }
        }
        return new JobTrial(false, ProblemViews.of(problems), given, List.of(), List.of(), List.of());
    }

    private JobTrial tried(
            JobDefinition job, @Nullable FileView given, int rows, ScratchFolder scratch, List<Problem> problems) {
        Map<String, @Nullable Object> values = parameters.values(job, problems);
        sources.checkFormat(job, problems);
        @Nullable
        FirstLook look =
                sources.firstLook(job, values, given, scratch.path(), problems).orElse(null);
        if (look == null) {
            boolean sound = problems.stream().allMatch(problem -> problem.code().isWarning());
            return new JobTrial(sound, ProblemViews.of(problems), given, List.of(), List.of(), List.of());
        }
        List<String> header = look.columns().stream().map(SourceColumn::name).toList();
        try (PreparedJob prepared =
                preparation.prepare(job, Circumstances.newest(values), look.columns(), look.open(), problems)) {
            if (prepared.sound().isEmpty()) {
                return new JobTrial(false, ProblemViews.of(problems), look.file(), header, List.of(), List.of());
            }
            Plan plan = prepared.plan();
            Masked masked = masked(plan);
            List<TrialRow> made = prepared.firstRows(rows, scratch.path()).stream()
                    .map(row -> row(plan, header, masked, row))
                    .toList();
            return new JobTrial(
                    true,
                    ProblemViews.of(problems),
                    look.file(),
                    header,
                    made,
                    MapViews.of(plan, job, values, connections));
        }
    }

    /** What is kept from those who look at rows of a plan. */
    static Masked masked(Plan plan) {
        Set<String> fields = new HashSet<>();
        plan.writes().forEach(write -> fields.addAll(write.sensitiveFields()));
        return new Masked(new HashSet<>(SensitiveColumns.of(plan)), fields);
    }

    private static TrialRow row(Plan plan, List<String> header, Masked masked, TargetRow target) {
        List<@Nullable String> raw = new ArrayList<>();
        for (Object cell : target.row().source().cells()) {
            raw.add(Values.text(cell));
        }
        String skipped = target.skipped();
        return new TrialRow(
                target.row().source().number(),
                target.row().source().origin().text(),
                masked.cells(header, raw),
                skipped != null ? "skipped" : target.rejected() ? "rejected" : "passed",
                skipped == null ? "" : skipped,
                problems(target.problems(), header, masked, raw),
                problems(target.row().warnings(), header, masked, raw),
                made(plan, masked, target));
    }

    private static List<ProblemView> problems(
            List<Problem> problems, List<String> header, Masked masked, List<@Nullable String> raw) {
        return ProblemViews.of(problems).stream()
                .map(problem -> masked.problem(problem, header, raw))
                .toList();
    }

    private static List<TrialRecord> made(Plan plan, Masked masked, TargetRow target) {
        List<TrialRecord> made = new ArrayList<>();
        for (int w = 0; w < plan.writes().size(); w++) {
            WriteRow row = target.write(w);
            if (row != null) {
                made.add(made(plan.writes().get(w), masked, row));
            }
        }
        return made;
    }

    private static TrialRecord made(PlannedWrite write, Masked masked, WriteRow row) {
        List<TrialField> fields = new ArrayList<>();
        for (int i = 0; i < write.fields().size(); i++) {
            if (write.fields().get(i).source() instanceof Source.Kept) {
                continue;
            }
            String name = write.fieldNames().get(i);
            Object value = row.values()[i];
            boolean later = value == Mapper.LATER;
            boolean broken = value == BrokenInput.VALUE;
            String text = later || broken ? null : Values.text(value);
            fields.add(new TrialField(
                    name,
                    Masked.value(text, masked.fields().contains(name)),
                    write.key().contains(i),
                    later,
                    broken));
        }
        return new TrialRecord(write.name(), write.target().name(), fields);
    }
}
