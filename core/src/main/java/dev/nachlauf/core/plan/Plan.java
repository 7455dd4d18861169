package dev.nachlauf.core.plan;

import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import java.util.List;

/**
 * A checked job, ready to run.
 *
 * @param columns the source's columns
 * @param slots how many slots a row needs on its way
 * @param facts the first of three slots with the row's file, sheet and line
 * @param needsFacts whether a formula asks for one of them
 * @param inputs the columns that are read, each into its slot
 * @param steps in order; one step of the job may be several here
 * @param writes in order; there is at least one
 * @param totals figures that are added up over the rows of the source
 */
public record Plan(
        JobDefinition job,
        List<SourceColumn> columns,
        int slots,
        int facts,
        boolean needsFacts,
        List<Input> inputs,
        List<PlannedStep> steps,
        List<PlannedWrite> writes,
        List<PlannedTotal> totals) {
    /** How many facts of the row there are: file, sheet, line. */
    public static final int FACTS = 3;

    public Plan {
        columns = List.copyOf(columns);
        inputs = List.copyOf(inputs);
        steps = List.copyOf(steps);
        writes = List.copyOf(writes);
        totals = List.copyOf(totals);
    }

    /** A column of the source and how its text is read. */
    public record Input(String name, int column, int slot, Kind kind, TextParser parser) {}

    /** The write that a list shows. */
    public PlannedWrite main() {
        int index = job.writes().indexOf(job.write());
        return writes.get(index);
    }

    /**
     * Whether a step has to see more than one row, or asks a system: then the steps are run once, before anything is
     * written, and what they made of the rows is kept on disk until the run has ended.
     */
    public boolean isShaped() {
        return steps.stream().anyMatch(step -> !step.isPlain());
    }

    /** Whether every row is written for itself, in one place. */
    public boolean isSimple() {
        return writes.size() == 1 && grouping() == Grouping.NONE;
    }

    /** How its rows are bound to each other. */
    public Grouping grouping() {
        return steps.stream()
                .filter(PlannedStep.Group.class::isInstance)
                .map(step -> ((PlannedStep.Group) step).linesAlone() ? Grouping.LINES_ALONE : Grouping.TOGETHER)
                .findFirst()
                .orElse(Grouping.NONE);
    }

    /** Whether rows may be left out because the run isn't about them; then nothing counts as gone. */
    public boolean isPart() {
        return steps.stream().anyMatch(PlannedStep.Chosen.class::isInstance);
    }

    /** The writes that replace, in the order in which records go: that of the last write first, for children follow parents. */
    public List<PlannedWrite> replacing() {
        return isPart()
                ? List.of()
                : writes.reversed().stream()
                        .filter(write -> write.removal().isPresent())
                        .toList();
    }

    /** Whether only one write removes records, so that none goes with another that refers to it. */
    public boolean removesInOnePlace() {
        return replacing().size()
                        + writes.stream().filter(PlannedWrite::deletes).count()
                == 1;
    }

    /**
     * Whether everything is planned before anything is written: where files are issued, records are removed, sensitive values may
     * change, a limit counts what is changed or removed, or a sign of something wrong or a figure that differs holds the run.
     * People can see all of that then while nothing is done yet.
     */
    public boolean isPlannedFirst() {
        return writes.stream()
                        .anyMatch(write -> write.deletes() || write.issue().isPresent() || write.mayChangeSensitive())
                || !replacing().isEmpty()
                || job.guards().hold()
                || job.totals().expects()
                || job.limits().updated().isPresent()
                || job.limits().deleted().isPresent();
    }

    /** The same without rules over the whole load, for a look at rows of which nothing is written. */
    public Plan withoutWholeLoad() {
        List<PlannedStep> others = steps.stream()
                .filter(step -> !(step instanceof PlannedStep.WholeLoad))
                .toList();
        return new Plan(job, columns, slots, facts, needsFacts, inputs, others, writes, totals);
    }
}
