package dev.nachlauf.core.run;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.step.LookupCache;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.step.WriteRow;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Fields that are found in other records when a row is written, so that records of this very run are found too. */
final class References {
    private final LookupCache cache;

    References(RecordFinder finder) {
        this.cache = new LookupCache(finder);
    }

    /** What has been written is asked for again. */
    void written(PlannedWrite write) {
        cache.forget(write.connection(), write.target().name());
    }

    /**
     * The rows with what was found.
     *
     * @param flow the rows behind the steps, by the same index
     * @param problems takes why a reference leads nowhere, by the same index
     */
    List<WriteRow> resolve(PlannedWrite write, List<FlowRow> flow, List<WriteRow> rows, List<List<Problem>> problems) {
        if (!write.hasReferences() || rows.isEmpty()) {
            return rows;
        }
        List<@Nullable Object[]> values = new ArrayList<>();
        rows.forEach(row -> values.add(row.values().clone()));
        for (int field = 0; field < write.fields().size(); field++) {
            if (write.fields().get(field).source() instanceof Source.Found found) {
                String name = write.fields().get(field).description().name();
                find(found.finding(), name, field, flow, values, problems);
            }
        }
        List<WriteRow> resolved = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            resolved.add(Mapper.resolved(write, rows.get(i), values.get(i), problems.get(i)));
        }
        return resolved;
    }

    private void find(
            Finding finding,
            String field,
            int index,
            List<FlowRow> flow,
            List<@Nullable Object[]> values,
            List<List<Problem>> problems) {
        List<@Nullable List<Object>> keys = new ArrayList<>();
        for (int i = 0; i < flow.size(); i++) {
            keys.add(LookupCache.key(finding, flow.get(i), problems.get(i)));
        }
        List<Found> found = cache.find(finding, keys);
        for (int i = 0; i < flow.size(); i++) {
            Found one = found.get(i);
            Object value = null;
            if (one.matches() == 1) {
                value = one.values()[0];
            } else if (keys.get(i) != null || !problems.get(i).isEmpty()) {
                value = BrokenInput.VALUE;
                if (keys.get(i) != null) {
                    problems.get(i).add(LookupCache.missing(finding, field, keys.get(i), one));
                }
            }
            values.get(i)[index] = value;
        }
    }
}
