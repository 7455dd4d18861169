package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;

/** Runs the steps of a plan over rows in memory. */
public final class Flows {
    private Flows() {}

    /** What comes out behind the last step; there are no lookups. */
    public static List<FlowRow> of(Plan plan, List<SourceRow> rows) {
        return of(plan, rows, Flows::nothing, Path.of("."), new ArrayList<>());
    }

    /** What comes out behind the last step. */
    public static List<FlowRow> of(
            Plan plan, List<SourceRow> rows, RecordFinder finder, Path scratch, List<Problem> warnings) {
        return of(plan, reader(rows), finder, scratch, warnings);
    }

    /** What comes out behind the last step. */
    public static List<FlowRow> of(
            Plan plan, SourceReader reader, RecordFinder finder, Path scratch, List<Problem> warnings) {
        List<FlowRow> out = new ArrayList<>();
        try (RowFlow flow = Shaping.flow(plan, reader, finder, scratch, warnings::add)) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                out.add(row);
            }
        }
        return out;
    }

    private static List<Found> nothing(Finding finding, List<Object[]> keys) {
        return keys.stream().map(key -> Found.NOTHING).toList();
    }

    private static SourceReader reader(List<SourceRow> rows) {
        Iterator<SourceRow> left = rows.iterator();
        return new SourceReader() {
            @Override
            public List<SourceField> fields() {
                return List.of();
            }

            @Override
            public List<Detected> options() {
                return List.of();
            }

            @Override
            public SourceRow next() {
                return left.hasNext() ? left.next() : null;
            }

            @Override
            public void close() {
                // rows in memory need no closing
            }
        };
    }
}
