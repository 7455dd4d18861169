package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.spool.RepeatedKeys;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.LoadKeys;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.RowFlow;
import dev.nachlauf.core.step.Shaping;
import dev.nachlauf.core.step.Shaping.KeptRows;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * The first pass, before anything is written: it counts the rows, finds keys that are repeated anywhere in the load, and,
 * where the job limits rejects, counts those that can be known by now.
 *
 * @param rows rows in the source, as far as it could be read
 * @param rejected rows rejected before the target is asked; 0 where the job sets no limit
 * @param repeated keys that stand twice, for each write
 * @param failures why the source could not be read to its end
 * @param warnings what is to be said of the load as a whole
 */
record Survey(long rows, long rejected, List<RepeatedKeys> repeated, List<Problem> failures, List<Problem> warnings)
        implements AutoCloseable {
    private static final int REPORT_EVERY = 10_000;

    static Survey of(Plan plan, RowSupply supply, Path scratch, RunObserver observer) {
        List<RepeatedKeys> repeated = new ArrayList<>();
        plan.writes().forEach(write -> repeated.add(new RepeatedKeys(scratch)));
        boolean countRejects = plan.job().limits().rejected().isPresent();
        boolean reduced = !plan.isShaped() && !countRejects;
        Plan surveyed = reduced ? LoadKeys.reduced(plan) : plan;
        LoadKeys keys = new LoadKeys(surveyed);
        Mapper mapper = new Mapper(plan);
        long read = 0;
        long rejected = 0;
        List<Problem> warnings = List.of();
        List<Problem> failures = List.of();
        try (RowFlow flow = supply.open(surveyed)) {
            long next = REPORT_EVERY;
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                read += row.stands()[0];
                rejected += countRejects && mapper.map(row).rejected() ? 1 : 0;
                for (int w = 0; w < repeated.size(); w++) {
                    byte[] key = keys.key(row, w);
                    if (key != null) {
                        repeated.get(w).add(key, row.position(), row.source().number());
                    }
                }
                if (read >= next) {
                    observer.surveyed(read);
                    next = read + REPORT_EVERY;
                }
            }
            if (flow instanceof KeptRows kept) {
                warnings = kept.warnings();
            }
            read = flow.read();
        } catch (CannotGoOn e) {
            failures = e.problems();
        }
        repeated.forEach(RepeatedKeys::find);
        return new Survey(read, rejected, repeated, failures, warnings);
    }

    /** How many rows have a key that another row has too. */
    long repeatedRows() {
        return repeated.stream().mapToLong(RepeatedKeys::count).sum();
    }

    /** Where the rows behind the steps come from, for each pass over them. */
    @FunctionalInterface
    interface RowSupply {
        /** The rows; where they are not kept, the steps of this plan are run. */
        RowFlow open(Plan plan);
    }

    /** The rows of a source, through the steps of a plan that looks at one row alone. */
    static RowSupply straight(SourceSupply source, Path scratch) {
        return plan -> Shaping.flow(
                plan,
                source.open(),
                (finding, asked) -> {
                    throw new IllegalStateException("a plan with lookups is shaped beforehand");
                },
                scratch,
                warning -> {});
    }

    @Override
    public void close() {
        repeated.forEach(RepeatedKeys::close);
    }
}
