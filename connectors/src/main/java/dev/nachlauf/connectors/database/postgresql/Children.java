package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.sql.Connection;
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
import org.jspecify.annotations.Nullable;

/** Records of other tables that refer to records which are to be removed, and forbid it. */
final class Children {
    private static final String REFERRING = """
            SELECT c.conname, n.nspname, t.relname, c.confrelid = c.conrelid,
                   (SELECT array_agg(a.attname ORDER BY k.n) FROM unnest(c.conkey) WITH ORDINALITY k(num, n)
                    JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = k.num),
                   (SELECT array_agg(a.attname ORDER BY k.n) FROM unnest(c.confkey) WITH ORDINALITY k(num, n)
                    JOIN pg_attribute a ON a.attrelid = c.confrelid AND a.attnum = k.num)
            FROM pg_constraint c JOIN pg_class t ON t.oid = c.conrelid JOIN pg_namespace n ON n.oid = t.relnamespace
            WHERE c.confrelid = ?::regclass AND c.contype = 'f' AND c.confdeltype IN ('a', 'r') ORDER BY c.conname""";

    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private @Nullable List<Child> children;
    private final Set<String> offended = new HashSet<>();

    Children(Connection connection, Table table, Staging staging) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
    }

    /** A table whose {@code columns} refer to {@code parents} of this one. */
    private record Child(
            String constraint,
            String schema,
            String name,
            boolean itself,
            List<String> columns,
            List<String> parents) {}

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
        Predicate<Child> asked = child -> !again || offended.contains(child.constraint);
        for (Child child : children()) {
            if (asked.test(child)) {
                ask(child, write, problems);
            }
        }
    }

    private List<Child> children() throws SQLException {
        if (children == null) {
            List<Child> found = new ArrayList<>();
            try (PreparedStatement statement = connection.prepareStatement(REFERRING)) {
                statement.setString(1, table.sqlName());
                try (ResultSet row = statement.executeQuery()) {
                    while (row.next()) {
                        found.add(new Child(
                                row.getString(1),
                                row.getString(2),
                                row.getString(3),
                                row.getBoolean(4),
                                List.of((String[]) row.getArray(5).getArray()),
                                List.of((String[]) row.getArray(6).getArray())));
                    }
                }
            }
            children = found;
        }
        return children;
    }

    private void ask(Child child, int write, Map<Integer, List<Problem>> problems) throws SQLException {
        String match = IntStream.range(0, child.columns.size())
                .mapToObj(i -> "c." + Sql.name(child.columns.get(i)) + " = t." + Sql.name(child.parents.get(i)))
                .collect(Collectors.joining(" AND "));
        String staged = staging.changesTable();
        // what goes in the same batch refers to nothing any more
        String stays = child.itself
                ? " AND NOT EXISTS (SELECT FROM " + staged + " s, " + table.sqlName()
                        + " t WHERE s.w = x.w AND s.kind = " + StagedChange.DELETE + " AND " + staging.sameRecord()
                        + " AND t.ctid = c.ctid)"
                : "";
        String sql = "SELECT x.n, count(*) FROM " + staged + " x JOIN " + table.sqlName() + " t ON "
                + staging.sameRecord("x") + " JOIN " + Sql.name(child.schema) + "."
                + Sql.name(child.name) + " c ON " + match + " WHERE x.w = ? AND x.kind = " + StagedChange.DELETE + stays
                + " GROUP BY x.n ORDER BY x.n";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    offended.add(child.constraint);
                    problems.computeIfAbsent(row.getInt(1), any -> new ArrayList<>())
                            .add(referring(child, row.getLong(2)));
                }
            }
        }
    }

    private static Problem referring(Child child, long records) {
        return Problem.of(
                        ProblemCode.STILL_REFERRED_TO,
                        (records == 1 ? "A record of " : records + " records of ") + child.name
                                + (records == 1 ? " refers" : " refer") + " to it.",
                        "Remove these records first, or let them refer to another one.")
                .about(child.name);
    }
}
