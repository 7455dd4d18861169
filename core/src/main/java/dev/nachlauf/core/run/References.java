package dev.nachlauf.core.run;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Problem;
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

    /** The rows with what was found; a row of which a reference leads nowhere is refused. */
    List<WriteRow> resolve(PlannedWrite write, List<Line> lines, List<WriteRow> rows) {
        if (!write.hasReferences() || rows.isEmpty()) {
            return new ArrayList<>(rows);
        }
        List<@Nullable Object[]> values = new ArrayList<>();
        List<List<Problem>> problems = new ArrayList<>();
        rows.forEach(row -> {
            values.add(row.values().clone());
            problems.add(new ArrayList<>());
        });
        for (int field = 0; field < write.fields().size(); field++) {
            if (write.fields().get(field).source() instanceof Source.Found found) {
                String name = write.fields().get(field).description().name();
                find(found.finding(), name, field, lines, values, problems);
            }
        }
        List<WriteRow> resolved = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            resolved.add(Mapper.resolved(write, rows.get(i), values.get(i), problems.get(i)));
            if (!problems.get(i).isEmpty()) {
                lines.get(i).refuse(problems.get(i));
            }
        }
        return resolved;
    }

    private void find(
            Finding finding,
            String field,
            int index,
            List<Line> lines,
            List<@Nullable Object[]> values,
            List<List<Problem>> problems) {
        List<@Nullable List<Object>> keys = new ArrayList<>();
        for (int i = 0; i < lines.size(); i++) {
            keys.add(LookupCache.key(finding, lines.get(i).row.row(), problems.get(i)));
        }
        List<Found> found = cache.find(finding, keys);
        for (int i = 0; i < lines.size(); i++) {
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
