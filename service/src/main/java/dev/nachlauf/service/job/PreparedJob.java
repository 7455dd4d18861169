package dev.nachlauf.service.job;

import dev.nachlauf.core.example.ExampleCheck;
import dev.nachlauf.core.example.Trial;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.step.MappedRows;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** A job with all that it needs to be carried out or looked at. To be closed. */
public final class PreparedJob implements AutoCloseable {
    private final JobDefinition definition;
    private final Surroundings surroundings;
    private final List<SourceColumn> columns;
    private final JobSystems systems;
    private final Optional<Plan> plan;
    private final Supplier<SourceReader> source;
    private final List<Problem> problems;

    PreparedJob(
            JobDefinition definition,
            Surroundings surroundings,
            List<SourceColumn> columns,
            JobSystems systems,
            Optional<Plan> plan,
            Supplier<SourceReader> source,
            List<Problem> problems) {
        this.definition = definition;
        this.surroundings = surroundings;
        this.columns = List.copyOf(columns);
        this.systems = systems;
        this.plan = plan;
        this.source = source;
        this.problems = problems;
    }

    /** The plan; empty where the job is not sound. */
    public Optional<Plan> sound() {
        return plan;
    }

    /**
     * The plan.
     *
     * @throws CannotGoOn where the job is not sound, with all that is wrong
     */
    public Plan plan() {
        return plan.orElseThrow(() -> new CannotGoOn(problems));
    }

    /** The systems that the job names. */
    public JobSystems systems() {
        return systems;
    }

    /** The fields of its source. */
    public List<SourceColumn> columns() {
        return columns;
    }

    /** Opens the source at its start. */
    public SourceReader read() {
        return source.get();
    }

    /** The rows of the source through the steps and the maps; what the load as a whole must be plays no part. */
    public MappedRows rows(Path scratch) {
        return MappedRows.of(plan().withoutWholeLoad(), read(), systems, scratch);
    }

    /** What becomes of the first rows. */
    public List<TargetRow> firstRows(int rows, Path scratch) {
        return Trial.of(plan(), read(), rows, systems, scratch);
    }

    /** What is wrong with the job's examples. */
    List<Problem> failedExamples() {
        return ExampleCheck.check(definition, surroundings, columns, systems);
    }

    @Override
    public void close() {
        systems.close();
    }
}
