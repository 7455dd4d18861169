package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.connectors.database.staged.ChangeWriting;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.BitSet;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** The statements that write changes to a table, set by set, and what each change is answered. */
final class ChangeStatements implements ChangeWriting {
    static final Problem NOT_WRITTEN = Problem.of(
            ProblemCode.NOT_WRITTEN,
            "A trigger of the table swallowed the row without an error.",
            "Ask who looks after the table why it does that.");
    /** A write that nothing is staged for: its statements touch no record, but need the same rights and columns. */
    private static final int NOTHING_STAGED = -1;

    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final boolean triggers;
    private final Insertions insertions;

    ChangeStatements(Connection connection, Table table, Staging staging) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.triggers = table.rewritesRows();
        this.insertions = new Insertions(connection, table, staging);
    }

    @Override
    public void write(ChangeSet changes, int[] which, Answers answers) throws SQLException {
        int[] updates = changes.rows(Kind.UPDATE, which);
        int[] deletes = changes.rows(Kind.DELETE, which);
        int[] inserts = changes.rows(Kind.INSERT, which);
        if (updates.length + deletes.length > 0) {
            int[] others = IntStream.concat(IntStream.of(updates), IntStream.of(deletes))
                    .toArray();
            int write = staging.changes(changes, others);
            if (updates.length > 0) {
                update(changes, updates, write, answers);
            }
            if (deletes.length > 0) {
                delete(deletes, write, answers);
            }
        }
        if (inserts.length > 0) {
            insertions.write(changes, inserts, answers);
        }
        constraints(connection, "IMMEDIATE");
    }

    /** When constraints speak that may be deferred. */
    static void constraints(Connection connection, String when) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("SET CONSTRAINTS ALL " + when);
        }
    }

    @Override
    public void writeNothing(ChangeSet changes, int[] which) throws SQLException {
        int[] updates = changes.rows(Kind.UPDATE, which);
        if (updates.length > 0) {
            updated(assignments(changes, updates), NOTHING_STAGED, new Answers(changes));
        }
        if (changes.rows(Kind.DELETE, which).length > 0) {
            delete(new int[0], NOTHING_STAGED, new Answers(changes));
        }
        int[] inserts = changes.rows(Kind.INSERT, which);
        if (inserts.length > 0) {
            insertions.inserted(NOTHING_STAGED, changes.idAt(inserts[0]) >= 0);
        }
    }

    private void update(ChangeSet changes, int[] updates, int write, Answers answers) throws SQLException {
        updated(assignments(changes, updates), write, answers);
        unanswered(updates, write, answers);
    }

    /** Only fields that some row changes are named; a row that leaves one of them as it is gives it back untouched. */
    private String assignments(ChangeSet changes, int[] updates) {
        BitSet some = new BitSet();
        BitSet every = new BitSet();
        every.set(0, staging.fields().size());
        for (int row : updates) {
            BitSet changed = changes.changed(row);
            some.or(changed);
            every.and(changed);
        }
        return some.stream()
                .mapToObj(i -> {
                    Column column = staging.fields().get(i);
                    String name = Sql.name(column.name());
                    String value = Staging.cast("s.f" + i, column);
                    return name + " = "
                            + (every.get(i)
                                    ? value
                                    : "CASE substr(s.mask, " + (i + 1) + ", 1) WHEN '1' THEN " + value + " ELSE t."
                                            + name + " END");
                })
                .collect(Collectors.joining(", "));
    }

    private void updated(String assignments, int write, Answers answers) throws SQLException {
        String sql = "UPDATE " + table.sqlName() + " t SET " + assignments + " FROM " + staging.changesTable()
                + " s WHERE s.w = ? AND s.kind = " + StagedTable.UPDATE + " AND " + staging.sameRecord()
                + " AND " + table.mark() + " = s.mark RETURNING s.n"
                + (triggers ? ", " + StoredRow.columns(staging, "t.") : "");
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    int updated = row.getInt(1);
                    answers.done(updated);
                    if (triggers) {
                        answers.stored(updated, StoredRow.read(staging, row, 2).values());
                    }
                }
            }
        }
    }

    private void delete(int[] deletes, int write, Answers answers) throws SQLException {
        String sql = "DELETE FROM " + table.sqlName() + " t USING " + staging.changesTable()
                + " s WHERE s.w = ? AND s.kind = " + StagedTable.DELETE + " AND " + staging.sameRecord()
                + " AND " + table.mark() + " = s.mark RETURNING s.n";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    answers.done(row.getInt(1));
                }
            }
        }
        unanswered(deletes, write, answers);
    }

    /** A row without an answer was changed by somebody else, or swallowed: its version tells which. */
    private void unanswered(int[] which, int write, Answers answers) throws SQLException {
        int[] open = IntStream.of(which)
                .filter(row -> answers.kind(row) == Answers.Kind.NONE)
                .toArray();
        if (open.length == 0) {
            return;
        }
        IntStream.of(open).forEach(answers::moved);
        if (triggers) {
            String sql = "SELECT s.n FROM " + staging.changesTable() + " s JOIN " + table.sqlName() + " t ON "
                    + staging.sameRecord() + " WHERE s.w = ? AND " + table.mark() + " = s.mark";
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                statement.setInt(1, write);
                try (ResultSet row = statement.executeQuery()) {
                    while (row.next()) {
                        if (answers.kind(row.getInt(1)) == Answers.Kind.MOVED) {
                            answers.refused(row.getInt(1), List.of(NOT_WRITTEN));
                        }
                    }
                }
            }
        }
    }
}
