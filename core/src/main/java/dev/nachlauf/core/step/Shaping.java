package dev.nachlauf.core.step;

import dev.nachlauf.core.job.Step.Keep;
import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemRecord;
import dev.nachlauf.core.record.ValueCodec;
import dev.nachlauf.core.spool.RowFile;
import dev.nachlauf.core.step.GroupFlow.Treatment;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Strings the steps of a plan together: each takes the flow of rows that the one above gives. */
public final class Shaping {
    private static final int REPORT_EVERY = 10_000;
    private static final BitSet NONE_PASSED_ON = new BitSet();

    private final Plan plan;
    private final SourceReader reader;
    private final @Nullable Supplier<SourceReader> source;
    private final RecordFinder lookups;
    private final Path scratch;
    private final Consumer<Problem> warnings;
    private final Runnable pulse;

    /** @param source gives the rows of {@code reader} again; null where they can be had once only */
    private Shaping(
            Plan plan,
            SourceReader reader,
            @Nullable Supplier<SourceReader> source,
            RecordFinder lookups,
            Path scratch,
            Consumer<Problem> warnings,
            Runnable pulse) {
        this.plan = plan;
        this.reader = reader;
        this.source = source;
        this.lookups = lookups;
        this.scratch = scratch;
        this.warnings = warnings;
        this.pulse = pulse;
    }

    /**
     * The rows behind the last step, of a source that can be read once.
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
        return new Shaping(plan, source, null, lookups, scratch, warnings, pulse).flow();
    }

    private RowFlow flow() {
        RowFlow flow = new ReadFlow(plan, NONE_PASSED_ON, reader, pulse);
        LookupCache cache = new LookupCache(lookups);
        List<PlannedStep> alone = new ArrayList<>();
        int level = 0;
        boolean first = true;
        for (PlannedStep step : plan.steps()) {
            if (step.isPlain() || step instanceof PlannedStep.Lookup) {
                alone.add(step);
                continue;
            }
            RowFlow above = alone(flow, level, alone, plan, cache);
            flow = first && source != null && alone.stream().allMatch(PlannedStep::isPlain)
                    ? merged(above, step, List.copyOf(alone), source)
                    : behind(above, level, step);
            alone.clear();
            first = false;
            level += step.changesRows() ? 1 : 0;
        }
        flow = alone(flow, level, alone, plan, cache);
        return plan.grouping() == Grouping.TOGETHER ? new LeaderFlow(flow) : flow;
    }

    private RowFlow behind(RowFlow flow, int level, PlannedStep step) {
        return switch (step) {
            case PlannedStep.WholeLoad whole -> new WholeLoadFlow(flow, whole, warnings);
            case PlannedStep.WideToLong wide -> new WideToLongFlow(flow, level, wide);
            case PlannedStep.ParentsFirst parents -> new ParentsFirstFlow(flow, parents, scratch, pulse);
            case PlannedStep.Duplicates duplicates ->
                grouped(flow, level, step, duplicates.by(), Treatments.of(duplicates));
            case PlannedStep.Combine combine ->
                grouped(flow, level, step, combine.by(), Treatments.of(combine, plan.facts()));
            case PlannedStep.LongToWide wide ->
                grouped(flow, level, step, wide.by(), Treatments.of(wide, plan.facts()));
            case PlannedStep.Group group -> grouped(flow, level, step, group.by(), Treatments.of(group));
            default -> throw new IllegalStateException(step + " looks at one row alone");
        };
    }

    private RowFlow grouped(RowFlow flow, int level, PlannedStep step, List<Integer> by, Treatment treatment) {
        return new GroupFlow(flow, level, step.index(), by, treatment, scratch, pulse);
    }

    /** Behind steps that look at one row alone, rows can be had once more, so they need not be sorted to be merged. */
    private RowFlow merged(RowFlow flow, PlannedStep step, List<PlannedStep> above, Supplier<SourceReader> again) {
        Supplier<RowFlow> upstream = new Supplier<>() {
            private @Nullable RowFlow given = flow;

            @Override
            public RowFlow get() {
                RowFlow rows = given == null ? anew(above, again.get()) : given;
                given = null;
                return new ReadAhead(rows);
            }
        };
        return switch (step) {
            case PlannedStep.Combine combine -> merged(upstream, step, combine.by(), Merging.of(combine, plan.facts()));
            case PlannedStep.Duplicates duplicates
            when duplicates.keep() == Keep.SUM -> merged(upstream, step, duplicates.by(), Merging.of(duplicates));
            default -> behind(upstream.get(), 0, step);
        };
    }

    private RowFlow anew(List<PlannedStep> steps, SourceReader source) {
        return alone(new ReadFlow(plan, NONE_PASSED_ON, source, pulse), 0, steps, plan, new LookupCache(lookups));
    }

    private RowFlow merged(Supplier<RowFlow> rows, PlannedStep step, List<Integer> by, Supplier<Merging> merging) {
        return new MergeFlow(rows, step.index(), by, merging, flow -> behind(flow, 0, step), pulse, MergeFlow.MOST);
    }

    /** The rows behind the last step, for a look that nobody stops. */
    public static RowFlow flow(
            Plan plan, SourceReader source, RecordFinder lookups, Path scratch, Consumer<Problem> warnings) {
        return flow(plan, source, lookups, scratch, warnings, () -> {});
    }

    private static RowFlow alone(RowFlow flow, int level, List<PlannedStep> steps, Plan plan, LookupCache lookups) {
        return steps.isEmpty() ? flow : new RowSteps(flow, level, List.copyOf(steps), plan, lookups);
    }

    /** The rows behind steps that look at one row alone; texts that are only passed on stay bytes. */
    public static RowFlow plain(Plan plan, SourceReader source, Runnable pulse) {
        LookupCache none = new LookupCache((finding, keys) -> {
            throw new IllegalStateException("a plan with lookups is shaped beforehand");
        });
        return alone(new ReadFlow(plan, PassedOn.of(plan), source, pulse), 0, plan.steps(), plan, none);
    }

    /** The rows behind the last step, of a source that gives the same rows each time it is opened. */
    public static RowFlow flow(
            Plan plan,
            Supplier<SourceReader> source,
            RecordFinder lookups,
            Path scratch,
            Consumer<Problem> warnings,
            Runnable pulse) {
        return new Shaping(plan, source.get(), source, lookups, scratch, warnings, pulse).flow();
    }

    /** Runs all steps and keeps what they made of the rows. */
    public static void keep(
            Plan plan,
            Supplier<SourceReader> source,
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
            hearLastWord();
            return null;
        }

        /** Passes over all rows that are left. */
        public void passOver(Runnable pulse) {
            while (reader.pass()) {
                pulse.run();
            }
            hearLastWord();
        }

        private void hearLastWord() {
            List<@Nullable Object> lastWord = ValueCodec.decode(reader.lastWord());
            read = lastWord.getFirst() instanceof Long rows ? rows : 0;
            warnings = lastWord.stream()
                    .skip(1)
                    .map(values -> ProblemRecord.of((List<?>) values))
                    .toList();
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
