package dev.nachlauf.core.example;

import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Result;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.source.FirstRows;
import dev.nachlauf.core.step.Leaders;
import dev.nachlauf.core.step.MappedRows;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What a job makes of the first rows of its source. Lookups ask their systems; targets are asked for nothing. */
public final class Trial {
    private Trial() {}

    /**
     * The rows behind the maps. Steps see the first rows alone, so a sum is one of these; rules over the whole load would
     * lie, and are left out.
     *
     * @param source read to so many rows, then closed
     */
    public static List<TargetRow> of(Plan plan, SourceReader source, int rows, RecordFinder finder, Path scratch) {
        List<TargetRow> made = new ArrayList<>();
        try (MappedRows mapped = MappedRows.of(plan.withoutWholeLoad(), new FirstRows(source, rows), finder, scratch)) {
            for (TargetRow row = mapped.next(); row != null; row = mapped.next()) {
                made.add(row);
            }
            if (plan.grouping() == Grouping.LINES_ALONE) {
                Leaders.choose(
                        made.stream().map(TargetRow::row).toList(),
                        at -> made.get(at).passed());
            }
            mapLate(plan, mapped.mapper(), made);
        }
        return made;
    }

    /** Maps what the writes make of results of earlier ones, as far as these are known without a target. */
    static void mapLate(Plan plan, Mapper mapper, List<TargetRow> rows) {
        Set<Integer> unknown = new HashSet<>();
        for (int w = 0; w < plan.writes().size(); w++) {
            if (plan.writes().get(w).late()) {
                mapLate(w, mapper, unknown, rows);
            }
            publish(w, plan.writes().get(w), unknown, rows);
        }
    }

    private static void mapLate(int write, Mapper mapper, Set<Integer> unknown, List<TargetRow> rows) {
        for (int i = 0; i < rows.size(); i++) {
            TargetRow row = rows.get(i);
            if (row.passed()) {
                List<Problem> problems = new ArrayList<>();
                WriteRow mapped = mapper.mapLate(row.row(), write, unknown, problems);
                if (mapped != null) {
                    row.put(write, mapped);
                }
                for (Problem problem : problems) {
                    rows.set(i, rows.get(i).rejected(problem));
                }
            }
        }
    }

    /** What later writes can use of a write, for all rows for which it stands; ids come from targets alone. */
    private static void publish(int index, PlannedWrite write, Set<Integer> unknown, List<TargetRow> rows) {
        Map<Long, WriteRow> leaders = new HashMap<>();
        for (TargetRow row : rows) {
            WriteRow mapped = row.write(index);
            if (mapped != null) {
                leaders.put(write.oncePerGroup() ? mapped.group() : mapped.number(), mapped);
            }
        }
        for (Result result : write.results()) {
            boolean later = result.field() < 0
                    || leaders.values().stream().anyMatch(made -> made.values()[result.field()] == Mapper.LATER);
            if (later) {
                unknown.add(result.slot());
                continue;
            }
            for (TargetRow row : rows) {
                long key = write.oncePerGroup() ? row.row().group() : row.row().position();
                WriteRow from = leaders.get(key);
                if (from != null) {
                    row.row().slots()[result.slot()] = from.values()[result.field()];
                }
            }
        }
    }
}
