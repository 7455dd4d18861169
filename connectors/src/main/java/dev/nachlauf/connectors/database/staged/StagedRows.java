package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.value.Values;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** The staged changes of a table as queries speak of them: {@code s} is a change, {@code s.n} the row that it is for. */
final class StagedRows {
    private final StagedTable table;

    StagedRows(StagedTable table) {
        this.table = table;
    }

    /** The place of a column among the written fields; negative where it is not written. */
    int field(String column) {
        return table.fields().indexOf(column);
    }

    /** Whether all of these columns are written. */
    boolean written(List<String> columns) {
        return columns.stream().allMatch(column -> field(column) >= 0);
    }

    /** The value of a column as it is staged. */
    String value(String column) {
        return table.value(field(column));
    }

    /** The changes, as the source of a query. */
    String from() {
        return " FROM " + table.changesTable() + " s ";
    }

    /** The condition that a change belongs to the write that is asked for, and leaves a record behind. */
    static String live() {
        return "s.w = ? AND s.kind <> " + StagedTable.DELETE;
    }

    /** The rows that a query finds; its one parameter is the number of the write. */
    List<Integer> offenders(String sql, int write) throws SQLException {
        List<Integer> offenders = new ArrayList<>();
        try (PreparedStatement statement = table.connection().prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    offenders.add(row.getInt(1));
                }
            }
        }
        return offenders;
    }

    /** Tells a problem of a row that lies in what it writes into some columns. */
    void add(
            Map<Integer, List<Problem>> problems,
            int index,
            ProblemCode code,
            List<String> columns,
            ChangeSet changes,
            String sentence,
            String remedy) {
        problems.computeIfAbsent(index, ignored -> new ArrayList<>())
                .add(Problem.inField(
                        code, String.join(" + ", columns), shown(columns, index, changes), sentence, remedy));
    }

    /** What a change writes into some columns, for people. */
    String shown(List<String> columns, int row, ChangeSet changes) {
        return columns.stream()
                .filter(column -> field(column) >= 0)
                .map(column -> Values.text(changes.after(row, field(column))))
                .map(text -> text == null ? "(empty)" : Values.shortened(text))
                .collect(Collectors.joining(" · "));
    }
}
