package dev.nachlauf.service.run;

import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.source.MendedRows;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobPreparation.Circumstances;
import dev.nachlauf.service.job.JobSources;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.source.SourcePart;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
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
        return prepare(entity, new Pins(entity.pins), scratch, heard);
    }

    /** The versions of crosswalks and pieces with which a run was started. */
    public Pins pins(long run) {
        return new Pins(views.entity(run).pins);
    }

    /** What a run has read. */
    public List<SourcePart> parts(long run) {
        return input.parts(run);
    }

    /** The job of a run. */
    PreparedJob of(RunEntity run, Path scratch) {
        return prepare(run, new Pins(run.pins), scratch, UnaryOperator.identity());
    }

    private SourceReader rows(RunEntity run, SourceReader source) {
        if (run.resubmits == null) {
            return source;
        }
        SentRows again = sent.getObject();
        return new MendedRows(source, again.of(run.id), again.amongOthers(run.id));
    }

    private PreparedJob prepare(
            RunEntity run, Pins crosswalks, Path scratch, UnaryOperator<Map<String, Translation>> heard) {
        Pins pins = new Pins(run.pins);
        JobDefinition job = jobs.definition(jobs.version(run.jobName, run.jobVersion), pins);
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, run.parameters, problems);
        List<SourcePart> parts = input.parts(run.id);
        Circumstances circumstances = new Circumstances(
                pins,
                crosswalks,
                parameters,
                JobPreparation.facts(run.id, run.startedBy, run.createdAt),
                input.lookups(run.id),
                run.choice(),
                heard);
        return ChosenEnvironment.during(
                run.environment,
                () -> preparation.prepare(
                        job,
                        circumstances,
                        run.columns,
                        () -> rows(run, sources.reader(job, parts, run.columns, scratch)),
                        problems));
    }
}
