package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription.Reference;
import dev.nachlauf.core.value.Values;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * The parents that rows refer to by one field: each value is asked for once, for few parents have many children. One
 * that is missing is asked for again with the next batch; one that vanishes meanwhile is refused by the database.
 */
final class Parents {
    /** So many known values are remembered; beyond them it begins anew, so that memory stays bounded. */
    private static final int MOST = 200_000;

    private final StagedTable table;
    private final StagedRows staged;
    private final Map<String, Set<Value>> known = new HashMap<>();

    /** A value by its cell. Two spellings of one value are asked for twice, which does no harm. */
    private record Value(String bytes) {
        static Value of(RowBlock rows, int row, int field) {
            int at = rows.at(row, field);
            return new Value(
                    new String(rows.data(), at, CellCodec.end(rows.data(), at) - at, StandardCharsets.ISO_8859_1));
        }
    }

    Parents(StagedTable table, StagedRows staged) {
        this.table = table;
        this.staged = staged;
    }

    /** Whether a reference is one that is asked about here; a parent in the same table may be one of the rows. */
    boolean knows(Reference reference) {
        return reference.fields().size() == 1 && field(reference) >= 0 && !isItself(reference);
    }

    private boolean isItself(Reference reference) {
        return table.parentName(reference).equals(table.sqlName());
    }

    private int field(Reference reference) {
        return staged.field(reference.fields().getFirst());
    }

    /** Asks which staged changes refer to no parent, whatever fields the reference has. */
    void ask(Reference reference, int write, ChangeSet changes, Map<Integer, List<Problem>> problems)
            throws SQLException {
        if (!staged.written(reference.fields())) {
            return;
        }
        String parent = table.parentName(reference);
        String match = IntStream.range(0, reference.fields().size())
                .mapToObj(i -> "p." + table.name(reference.parentFields().get(i)) + " = "
                        + staged.value(reference.fields().get(i)))
                .collect(Collectors.joining(" AND "));
        String filled = reference.fields().stream()
                .map(column -> "s.f" + staged.field(column) + " IS NOT NULL")
                .collect(Collectors.joining(" AND "));
        String sql = "SELECT s.n" + staged.from() + "WHERE " + staged.live() + " AND " + filled
                + " AND NOT EXISTS (SELECT 1 FROM " + parent + " p WHERE " + match + ")" + amongRows(reference);
        for (int row : staged.offenders(sql, write)) {
            tell(reference, row, changes, problems);
        }
    }

    /** Of a table that refers to itself: the condition that no row of the same write is the parent. */
    private String amongRows(Reference reference) {
        if (!isItself(reference) || !staged.written(reference.parentFields())) {
            return "";
        }
        String match = IntStream.range(0, reference.fields().size())
                .mapToObj(i -> "o.f" + staged.field(reference.parentFields().get(i)) + " = s.f"
                        + staged.field(reference.fields().get(i)))
                .collect(Collectors.joining(" AND "));
        return " AND NOT EXISTS (SELECT 1 FROM " + table.changesTable() + " o WHERE o.w = s.w AND o.kind <> "
                + StagedTable.DELETE + " AND " + match + ")";
    }

    /** Tells of a row that refers to no parent. */
    void tell(Reference reference, int row, ChangeSet changes, Map<Integer, List<Problem>> problems) {
        staged.add(
                problems,
                row,
                ProblemCode.REFERENCE_MISSING,
                reference.fields(),
                changes,
                "There is no " + reference.parent() + " with " + String.join(" + ", reference.parentFields()) + " "
                        + staged.shown(reference.fields(), row, changes) + ".",
                "Load the " + reference.parent() + " first, or correct the reference.");
    }

    /** Those of these rows that refer to no parent. */
    List<Integer> missing(Reference reference, ChangeSet changes, int[] which) throws SQLException {
        int field = field(reference);
        Set<Value> there = known.computeIfAbsent(reference.name(), any -> new HashSet<>());
        Map<Value, List<Integer>> unknown = new HashMap<>();
        for (int row : which) {
            boolean written = switch (changes.kind(row)) {
                case INSERT -> true;
                case UPDATE -> changes.isChanged(row, field);
                case DELETE, LEAVE, NONE -> false;
            };
            if (written && !changes.rows().isNull(row, field)) {
                Value value = Value.of(changes.rows(), row, field);
                if (!there.contains(value)) {
                    unknown.computeIfAbsent(value, any -> new ArrayList<>()).add(row);
                }
            }
        }
        if (unknown.isEmpty()) {
            return List.of();
        }
        List<Map.Entry<Value, List<Integer>>> asked = List.copyOf(unknown.entrySet());
        CellCodec codec = table.cells().fields().get(field);
        List<String> texts = asked.stream()
                .map(one -> String.valueOf(
                        Values.text(changes.rows().value(one.getValue().getFirst(), field, codec))))
                .toList();
        Set<Integer> absent = table.absent(reference, field, texts);
        if (there.size() > MOST) {
            there.clear();
        }
        List<Integer> rows = new ArrayList<>();
        for (int i = 0; i < asked.size(); i++) {
            if (absent.contains(i)) {
                rows.addAll(asked.get(i).getValue());
            } else {
                there.add(asked.get(i).getKey());
            }
        }
        return rows;
    }
}
