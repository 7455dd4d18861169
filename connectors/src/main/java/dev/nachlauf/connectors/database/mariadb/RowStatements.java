package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.connectors.database.staged.ChangeWriting;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.connectors.database.staged.StagedTable.Referring;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The statements that write changes to a table, set by set, and what each change is answered. Records are locked before
 * they are changed, and only those that are as they were found: the server doesn't say which ones a statement changed.
 */
final class RowStatements implements ChangeWriting {
    /** A write that nothing is staged for: its statements touch no record, but need the same rights and columns. */
    private static final int NOTHING_STAGED = -1;

    /** Staged kinds of removals that nothing refers to, and of those that are done. */
    private static final int LEAF = 3;

    private static final int GONE = 4;

    private final StagedTable staged;
    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final RecordSearch search;

    RowStatements(StagedTable staged, Table table, Staging staging, RecordSearch search) {
        this.staged = staged;
        this.connection = staged.connection();
        this.table = table;
        this.staging = staging;
        this.search = search;
    }

    @Override
    public void write(ChangeSet changes, int[] which, Answers answers) throws SQLException {
        int write = staging.changes(changes, which);
        int[] updates = changes.rows(Kind.UPDATE, which);
        int[] deletes = changes.rows(Kind.DELETE, which);
        int[] inserts = changes.rows(Kind.INSERT, which);
        if (updates.length + deletes.length > 0) {
            BitSet locked = locked(write);
            if (updates.length > 0) {
                update(changes, updates, write);
                answer(updates, locked, answers);
                stored(updates, locked, write, answers);
            }
            if (deletes.length > 0) {
                deleteLeaves(write);
                run("DELETE t FROM " + unmoved(StagedTable.DELETE), write);
                answer(deletes, locked, answers);
            }
        }
        if (inserts.length > 0) {
            insert(inserts, write, changes.idAt(inserts[0]) >= 0, answers);
        }
    }

    @Override
    public void writeNothing(ChangeSet changes, int[] which) throws SQLException {
        int[] updates = changes.rows(Kind.UPDATE, which);
        if (updates.length > 0) {
            update(changes, updates, NOTHING_STAGED);
        }
        if (changes.rows(Kind.DELETE, which).length > 0) {
            run("DELETE t FROM " + unmoved(StagedTable.DELETE), NOTHING_STAGED);
        }
        int[] inserts = changes.rows(Kind.INSERT, which);
        if (inserts.length > 0) {
            insert(new int[0], NOTHING_STAGED, changes.idAt(inserts[0]) >= 0, new Answers(changes));
        }
    }

    /** Staged changes {@code s} of a kind beside their records {@code t} that are as they were found. */
    private String unmoved(int kind) {
        return joined() + " WHERE s.w = ? AND s.kind = " + kind + " AND " + search.mark() + " = s.mark";
    }

    private String joined() {
        return staging.changesTable() + " s STRAIGHT_JOIN " + table.sqlName() + " t"
                + table.byIndex(ids()) + " ON "
                + staging.sameRecord("s", "t");
    }

    private List<String> ids() {
        return staging.ids().stream().map(Column::name).toList();
    }

    /** A statement that joins staged changes and records. */
    private PreparedStatement joining(String sql) throws SQLException {
        return connection.prepareStatement(table.asking(ids()) + sql);
    }

    /**
     * In a table that refers to itself, records go from the leaves on, for the reference is checked record by record. What
     * is left has others that refer to it and stay.
     */
    private void deleteLeaves(int write) throws SQLException {
        for (Referring itself : staged.referring()) {
            if (!itself.itself()) {
                continue;
            }
            String match = IntStream.range(0, itself.columns().size())
                    .mapToObj(i -> "c." + Sql.name(itself.columns().get(i)) + " = t."
                            + Sql.name(itself.parents().get(i)))
                    .collect(Collectors.joining(" AND "));
            String leaves = "UPDATE " + joined() + " SET s.kind = " + LEAF + " WHERE s.w = ? AND s.kind = "
                    + StagedTable.DELETE + " AND " + search.mark() + " = s.mark AND NOT EXISTS (SELECT 1 FROM "
                    + table.sqlName() + " c WHERE " + match + " AND NOT (" + staging.sameRecord("s", "c") + "))";
            while (run(leaves, write) > 0) {
                run("DELETE t FROM " + unmoved(LEAF), write);
                run(
                        "UPDATE " + staging.changesTable() + " SET kind = " + GONE + " WHERE w = ? AND kind = " + LEAF,
                        write);
            }
        }
    }

    private BitSet locked(int write) throws SQLException {
        BitSet locked = new BitSet();
        String sql = "SELECT s.n FROM " + joined() + " WHERE s.w = ? AND s.kind <> " + StagedTable.INSERT + " AND "
                + search.mark() + " = s.mark FOR UPDATE";
        try (PreparedStatement statement = joining(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    locked.set(row.getInt(1));
                }
            }
        }
        return locked;
    }

    private static void answer(int[] which, BitSet locked, Answers answers) {
        for (int row : which) {
            if (locked.get(row)) {
                answers.done(row);
            } else {
                answers.moved(row);
            }
        }
    }

    /** Only fields that some row changes are named; a row that leaves one of them as it is gives it back untouched. */
    private void update(ChangeSet changes, int[] updates, int write) throws SQLException {
        BitSet some = new BitSet();
        for (int row : updates) {
            some.or(changes.changed(row));
        }
        String assignments = some.stream()
                .mapToObj(i -> {
                    Column column = staging.fields().get(i);
                    String name = "t." + Sql.name(column.name());
                    return name + " = IF(SUBSTR(s.mask, " + (i + 1) + ", 1) = '1', " + column.written("s.f" + i) + ", "
                            + name + ")";
                })
                .collect(Collectors.joining(", "));
        run(
                "UPDATE " + joined() + " SET " + assignments + " WHERE s.w = ? AND s.kind = " + StagedTable.UPDATE
                        + " AND " + search.mark() + " = s.mark",
                write);
    }

    private int run(String sql, int write) throws SQLException {
        try (PreparedStatement statement = joining(sql)) {
            statement.setInt(1, write);
            return statement.executeUpdate();
        }
    }

    /** What triggers have made of the changed records. */
    private void stored(int[] updates, BitSet locked, int write, Answers answers) throws SQLException {
        if (!table.triggers()) {
            return;
        }
        BitSet asked = new BitSet();
        IntStream.of(updates).filter(locked::get).forEach(asked::set);
        String sql = "SELECT s.n, " + fields("t.") + " FROM " + joined() + " WHERE s.w = ?";
        try (PreparedStatement statement = joining(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    if (asked.get(row.getInt(1))) {
                        answers.stored(row.getInt(1), values(row, 2));
                    }
                }
            }
        }
    }

    /** New records come back in the order in which they were written. */
    private void insert(int[] inserts, int write, boolean withId, Answers answers) throws SQLException {
        List<String> names = new ArrayList<>();
        List<String> values = new ArrayList<>();
        for (int i = 0; withId && i < staging.ids().size(); i++) {
            names.add(staging.ids().get(i).name());
            values.add("s.i" + i);
        }
        for (int i = 0; i < staging.fields().size(); i++) {
            names.add(staging.fields().get(i).name());
            values.add(staging.fields().get(i).written("s.f" + i));
        }
        String ids = staging.ids().stream()
                .map(id -> id.read(Sql.name(id.name())) + ", ")
                .collect(Collectors.joining());
        String sql = "INSERT INTO " + table.sqlName() + " (" + Sql.names(names) + ") SELECT "
                + String.join(", ", values) + " FROM " + staging.changesTable() + " s WHERE s.w = ? AND s.kind = "
                + StagedTable.INSERT + " ORDER BY s.n RETURNING " + ids + fields("");
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                for (int i = 0; row.next(); i++) {
                    answers.done(inserts[i], id(row));
                    if (table.triggers()) {
                        answers.stored(inserts[i], values(row, 1 + staging.ids().size()));
                    }
                }
            }
        }
    }

    private Object id(ResultSet row) throws SQLException {
        List<@Nullable Object> parts = new ArrayList<>();
        for (int i = 0; i < staging.ids().size(); i++) {
            parts.add(staging.ids().get(i).wire().read(row, i + 1));
        }
        return parts.size() == 1 ? Objects.requireNonNull(parts.getFirst()) : parts;
    }

    private String fields(String prefix) {
        return staging.fields().stream()
                .map(field -> field.read(prefix + Sql.name(field.name())))
                .collect(Collectors.joining(", "));
    }

    private @Nullable Object[] values(ResultSet row, int first) throws SQLException {
        @Nullable Object[] values = new Object[staging.fields().size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = staging.fields().get(i).wire().read(row, first + i);
        }
        return values;
    }
}
