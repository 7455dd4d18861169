package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.spool.RepeatedKeys;
import dev.nachlauf.core.step.KeyTransform;
import dev.nachlauf.core.step.RowTransform;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import java.util.List;

/**
 * The first pass over the kept source, before anything is written: it counts the rows, finds keys that are repeated
 * anywhere in the load, and, where the job limits rejects, counts those that can be known by now.
 *
 * @param rows rows in the source, as far as it could be read
 * @param rejected rows rejected before the target is asked; 0 where the job sets no limit
 * @param failures why the source could not be read to its end
 */
record Survey(long rows, long rejected, RepeatedKeys repeated, List<Problem> failures) implements AutoCloseable {
    private static final int REPORT_EVERY = 10_000;

    static Survey of(Plan plan, SourceSupply source, Path scratch, RunObserver observer) {
        RepeatedKeys repeated = new RepeatedKeys(scratch);
        long rows = 0;
        long rejected = 0;
        List<Problem> failures = List.of();
        boolean countRejects = plan.job().limits().rejected().isPresent();
        RowTransform whole = new RowTransform(plan);
        KeyTransform keys = new KeyTransform(plan);
        try (SourceReader reader = source.open()) {
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                rows++;
                byte[] key;
                if (countRejects) {
                    TargetRow target = whole.apply(row);
                    rejected += target.rejected() ? 1 : 0;
                    key = KeyTransform.bytes(target);
                } else {
                    key = keys.key(row);
                }
                if (key != null) {
                    repeated.add(key, row.number());
                }
                if (rows % REPORT_EVERY == 0) {
                    observer.surveyed(rows);
                }
            }
        } catch (CannotGoOn e) {
            failures = e.problems();
        }
        repeated.find();
        return new Survey(rows, rejected, repeated, failures);
    }

    @Override
    public void close() {
        repeated.close();
    }
}
