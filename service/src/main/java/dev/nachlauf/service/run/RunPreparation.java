package dev.nachlauf.service.run;

import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.source.MendedRows;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.connection.OpenedSystems;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobPreparation.Circumstances;
import dev.nachlauf.service.job.JobSources;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.source.SourcePart;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/** Prepares the job of a run as it was when the run was started: its version, its pins, and the files that are kept with it. */
@Component
public class RunPreparation {
    private final RunViews views;
    private final Jobs jobs;
    private final JobPreparation preparation;
    private final JobSources sources;
    private final RunInput input;
    private final ObjectProvider<SentRows> sent;

    /** The rows that are sent again are looked up late, for rejects are built on runs. */
    RunPreparation(
            RunViews views,
            Jobs jobs,
            JobPreparation preparation,
            JobSources sources,
            RunInput input,
            ObjectProvider<SentRows> sent) {
        this.sent = sent;
        this.views = views;
        this.jobs = jobs;
        this.preparation = preparation;
        this.sources = sources;
        this.input = input;
    }

    /**
     * The job of a run, with the crosswalks as they are now.
     *
     * @param scratch a folder for what has to be unpacked
     */
    public PreparedJob withNewestCrosswalks(long run, Path scratch) {
        return prepare(views.entity(run), Pins.NEWEST, scratch, UnaryOperator.identity());
    }

    /**
     * The job of a run as it was, with the rows that it has read, for a look at what it has made of them.
     *
     * @param heard what stands between formulas and crosswalks
     */
    public PreparedJob asItWas(long run, Path scratch, UnaryOperator<Map<String, Translation>> heard) {
        RunEntity entity = views.entity(run);
        return prepare(entity, new Pins(entity.pins), scratch, job -> job.heardBy(heard));
    }

    /** The versions of crosswalks and pieces with which a run was started. */
    public Pins pins(long run) {
        return new Pins(views.entity(run).pins);
    }

    /** What a run has read. */
    public List<SourcePart> parts(long run) {
        return input.parts(run);
    }

    /** The job of a run, over the systems of an attempt. */
    PreparedJob of(RunEntity run, OpenedSystems open, Path scratch) {
        return prepare(run, new Pins(run.pins), scratch, job -> job.over(open));
    }

    /** The job of a run that another one undoes, over the files to which it adds as that one has found them. */
    PreparedJob toUndo(RunEntity other, RunEntity undo) {
        return overFiles(other, input.lookups(undo.id));
    }

    /** The job of a run over the files to which it adds as they are now; it reads no rows. */
    public PreparedJob overFilesAsTheyAre(long run) {
        return overFiles(views.entity(run), Map.of());
    }

    /** Whether the job of a run adds rows to files. */
    public boolean addsToFiles(long run) {
        return definition(views.entity(run)).writes().stream()
                .anyMatch(write -> write.issue().filter(Issue::adds).isPresent());
    }

    private PreparedJob overFiles(RunEntity run, Map<String, List<SourcePart>> files) {
        RunEntity first = run;
        while (first.undoes != null) {
            first = views.entity(first.undoes);
        }
        Map<String, List<SourcePart>> kept = new HashMap<>(JobSystems.lookedUp(input.lookups(first.id)));
        kept.putAll(files);
        Pins pins = new Pins(first.pins);
        return prepare(first, definition(first), pins, kept, RunPreparation::noRows, UnaryOperator.identity());
    }

    private static SourceReader noRows() {
        throw new IllegalStateException("no rows are read here");
    }

    private SourceReader rows(RunEntity run, SourceReader source) {
        if (run.resubmits == null) {
            return source;
        }
        SentRows again = sent.getObject();
        return new MendedRows(source, again.of(run.id), again.amongOthers(run.id));
    }

    private PreparedJob prepare(RunEntity run, Pins crosswalks, Path scratch, UnaryOperator<Circumstances> more) {
        JobDefinition job = definition(run);
        List<SourcePart> parts = input.parts(run.id);
        return prepare(
                run,
                job,
                crosswalks,
                input.lookups(run.id),
                () -> rows(run, sources.reader(job, parts, run.columns, scratch)),
                more);
    }

    private PreparedJob prepare(
            RunEntity run,
            JobDefinition job,
            Pins crosswalks,
            Map<String, List<SourcePart>> kept,
            Supplier<SourceReader> source,
            UnaryOperator<Circumstances> more) {
        List<Problem> problems = new ArrayList<>();
        Circumstances circumstances = new Circumstances(
                new Pins(run.pins),
                crosswalks,
                Parameters.resolve(job, run.parameters, problems),
                JobPreparation.facts(run.id, run.startedBy, run.createdAt),
                kept,
                run.choice());
        return ChosenEnvironment.during(
                run.environment,
                () -> preparation.prepare(job, more.apply(circumstances), run.columns, source, problems));
    }

    private JobDefinition definition(RunEntity run) {
        return jobs.definition(jobs.version(run.jobName, run.jobVersion), new Pins(run.pins));
    }
}
