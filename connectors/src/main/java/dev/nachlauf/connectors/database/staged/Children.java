package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.connectors.database.staged.StagedTable.Referring;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Records of other tables that refer to records which are to be removed, and forbid it. */
final class Children {
    private final StagedTable table;
    private final Set<String> offended = new HashSet<>();

    Children(StagedTable table) {
        this.table = table;
    }

    /** Whether some were found before that forbid a removal. */
    boolean haveForbidden() {
        return !offended.isEmpty();
    }

    /**
     * Asks which staged removals are forbidden.
     *
     * @param again whether only those tables are asked that have forbidden one before
     */
    void ask(int write, boolean again, Map<Integer, List<Problem>> problems) throws SQLException {
        Predicate<Referring> asked = child -> !again || offended.contains(child.constraint());
        for (Referring child : table.referring()) {
            if (asked.test(child)) {
                ask(child, write, problems);
            }
        }
    }

    private void ask(Referring child, int write, Map<Integer, List<Problem>> problems) throws SQLException {
        String match = IntStream.range(0, child.columns().size())
                .mapToObj(i -> "c." + table.name(child.columns().get(i)) + " = t."
                        + table.name(child.parents().get(i)))
                .collect(Collectors.joining(" AND "));
        String staged = table.changesTable();
        // what goes in the same batch refers to nothing any more
        String stays = child.itself()
                ? " AND NOT EXISTS (SELECT 1 FROM " + staged + " s WHERE s.w = x.w AND s.kind = " + StagedTable.DELETE
                        + " AND " + table.sameRecord("s", "c") + ")"
                : "";
        String sql = "SELECT x.n, count(*) FROM " + staged + " x JOIN " + table.sqlName() + " t ON "
                + table.sameRecord("x", "t") + " JOIN " + child.sqlName() + " c ON " + match
                + " WHERE x.w = ? AND x.kind = " + StagedTable.DELETE + stays
                + " GROUP BY x.n ORDER BY x.n";
        try (PreparedStatement statement = table.connection().prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    offended.add(child.constraint());
                    problems.computeIfAbsent(row.getInt(1), any -> new ArrayList<>())
                            .add(referring(child, row.getLong(2)));
                }
            }
        }
    }

    private static Problem referring(Referring child, long records) {
        return Problem.of(
                        ProblemCode.STILL_REFERRED_TO,
                        (records == 1 ? "A record of " : records + " records of ") + child.name()
                                + (records == 1 ? " refers" : " refer") + " to it.",
                        "Remove these records first, or let them refer to another one.")
                .about(child.name());
    }
}
