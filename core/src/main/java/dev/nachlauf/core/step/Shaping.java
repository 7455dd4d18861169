package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemRecord;
import dev.nachlauf.core.record.ValueCodec;
import dev.nachlauf.core.spool.RowFile;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import org.jspecify.annotations.Nullable;

/** Strings the steps of a plan together: each takes the flow of rows that the one above gives. */
public final class Shaping {
    private static final int REPORT_EVERY = 10_000;

    private Shaping() {}

    /**
     * The rows behind the last step.
     *
     * @param lookups answers lookups
     * @param scratch a folder for what spills to disk
     * @param warnings takes what is to be said of the load as a whole
     * @param pulse is run all along, and may end the flow by an exception
     */
    public static RowFlow flow(
            Plan plan,
            SourceReader source,
            RecordFinder lookups,
            Path scratch,
            Consumer<Problem> warnings,
            Runnable pulse) {
        RowFlow flow = new ReadFlow(plan, plan.inputs(), source, pulse);
        LookupCache cache = new LookupCache(lookups);
        List<PlannedStep> alone = new ArrayList<>();
        int level = 0;
        for (PlannedStep step : plan.steps()) {
            if (step.isPlain() || step instanceof PlannedStep.Lookup) {
                alone.add(step);
                continue;
            }
            flow = alone(flow, level, alone, plan, cache);
            alone.clear();
            flow = switch (step) {
                case PlannedStep.WholeLoad whole -> new WholeLoadFlow(flow, whole, warnings);
                case PlannedStep.WideToLong wide -> new WideToLongFlow(flow, level, wide);
                case PlannedStep.ParentsFirst parents -> new ParentsFirstFlow(flow, parents, scratch, pulse);
                case PlannedStep.Duplicates duplicates ->
                    new GroupFlow(
                            flow, level, step.index(), duplicates.by(), Treatments.of(duplicates), scratch, pulse);
                case PlannedStep.Combine combine ->
                    new GroupFlow(
                            flow,
                            level,
                            step.index(),
                            combine.by(),
                            Treatments.of(combine, plan.facts()),
                            scratch,
                            pulse);
                case PlannedStep.LongToWide wide ->
                    new GroupFlow(
                            flow, level, step.index(), wide.by(), Treatments.of(wide, plan.facts()), scratch, pulse);
                case PlannedStep.Group group ->
                    new GroupFlow(flow, level, step.index(), group.by(), Treatments.of(group), scratch, pulse);
                default -> throw new IllegalStateException(step + " looks at one row alone");
            };
            level += step.changesRows() ? 1 : 0;
        }
        flow = alone(flow, level, alone, plan, cache);
        return plan.steps().stream().anyMatch(PlannedStep.Group.class::isInstance) ? new LeaderFlow(flow) : flow;
    }

    /** The rows behind the last step, for a look that nobody stops. */
    public static RowFlow flow(
            Plan plan, SourceReader source, RecordFinder lookups, Path scratch, Consumer<Problem> warnings) {
        return flow(plan, source, lookups, scratch, warnings, () -> {});
    }

    private static RowFlow alone(RowFlow flow, int level, List<PlannedStep> steps, Plan plan, LookupCache lookups) {
        return steps.isEmpty() ? flow : new RowSteps(flow, level, List.copyOf(steps), plan, lookups);
    }

    /** Runs all steps and keeps what they made of the rows. */
    public static void keep(
            Plan plan,
            SourceReader source,
            RecordFinder lookups,
            Path scratch,
            Path file,
            LongConsumer progress,
            Runnable pulse) {
        List<Problem> warnings = new ArrayList<>();
        try (RowFlow flow = flow(plan, source, lookups, scratch, warnings::add, pulse);
                RowFile.Writer writer = new RowFile.Writer(file)) {
            long next = REPORT_EVERY;
            long position = 0;
            long leader = -1;
            long leadersPlace = -1;
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                // from here on rows are known by their place in the file; a group's leader stands before the others
                FlowRow placed = row.at(++position);
                if (row.group() == row.position()) {
                    leader = row.position();
                    leadersPlace = position;
                } else if (row.group() == leader) {
                    placed.joinGroup(leadersPlace);
                }
                writer.add(FlowCodec.encode(placed));
                if (flow.read() >= next) {
                    progress.accept(flow.read());
                    next = flow.read() + REPORT_EVERY;
                }
            }
            List<Object> lastWord = new ArrayList<>(List.of(flow.read()));
            warnings.forEach(warning -> lastWord.add(ProblemRecord.values(warning)));
            writer.finish(ValueCodec.encode(lastWord));
        }
    }

    /** The rows that were kept. */
    public static KeptRows kept(Path file) {
        return new KeptRows(file);
    }

    /** Kept rows, as a flow; at its end it knows what was said of the load as a whole. */
    public static final class KeptRows implements RowFlow {
        private final RowFile.Reader reader;
        private long read;
        private List<Problem> warnings = List.of();

        KeptRows(Path file) {
            this.reader = new RowFile.Reader(file);
        }

        @Override
        public @Nullable FlowRow next() {
            byte[] row = reader.next();
            if (row != null) {
                return FlowCodec.decode(row);
            }
            List<@Nullable Object> lastWord = ValueCodec.decode(reader.lastWord());
            read = lastWord.getFirst() instanceof Long rows ? rows : 0;
            warnings = lastWord.stream()
                    .skip(1)
                    .map(values -> ProblemRecord.of((List<?>) values))
                    .toList();
            return null;
        }

        @Override
        public long read() {
            return read;
        }

        /** Warnings about the load as a whole; known at the end. */
        public List<Problem> warnings() {
            return warnings;
        }

        @Override
        public void close() {
            reader.close();
        }
    }
}
