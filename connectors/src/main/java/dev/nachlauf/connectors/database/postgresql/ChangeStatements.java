package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** The statements that write changes to a table, set by set, and what each change is answered. Knows nothing of refusals. */
final class ChangeStatements {
    private static final Problem NOT_WRITTEN = Problem.of(
            ProblemCode.NOT_WRITTEN,
            "A trigger of the table swallowed the row without an error.",
            "Ask who looks after the table why it does that.");
    /** A write that nothing is staged for: its statements touch no record, but need the same rights and columns. */
    private static final int NOTHING_STAGED = -1;

    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final boolean triggers;
    private final boolean straightCopy;
    /** The places of the id's columns among the written ones; -1 where one is not written. */
    private final int[] idFields;

    ChangeStatements(Connection connection, Table table, Staging staging) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.idFields =
                staging.ids().stream().mapToInt(staging.fields()::indexOf).toArray();
        Set<Caution> cautions = table.cautions();
        this.triggers = cautions.contains(Caution.BEFORE_TRIGGERS) || cautions.contains(Caution.REWRITE_RULES);
        List<String> key = staging.keys().stream().map(Column::name).toList();
        this.straightCopy = !triggers
                && !cautions.contains(Caution.NO_VERSIONS)
                && !cautions.contains(Caution.ROW_SECURITY)
                && table.description().isUnique(key)
                && staging.fields().stream().noneMatch(column -> column.wire().needsCast());
    }

    /** Writes the changes of these rows and answers them. */
    void write(ChangeSet changes, int[] which, Answers answers) throws SQLException {
        int[] updates = of(Kind.UPDATE, changes, which);
        int[] deletes = of(Kind.DELETE, changes, which);
        int[] inserts = of(Kind.INSERT, changes, which);
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
            if (straightCopy && IntStream.of(inserts).allMatch(row -> hasKnownId(changes, row))) {
                copy(changes, inserts, answers);
            } else {
                insert(changes, inserts, answers);
            }
        }
    }

    /** Runs the statements that these changes need over no rows at all; what is refused now is refused whatever the row. */
    void writeNothing(ChangeSet changes, int[] which) throws SQLException {
        int[] updates = of(Kind.UPDATE, changes, which);
        if (updates.length > 0) {
            updated(assignments(changes, updates), NOTHING_STAGED, new Answers(changes));
        }
        if (of(Kind.DELETE, changes, which).length > 0) {
            delete(new int[0], NOTHING_STAGED, new Answers(changes));
        }
        int[] inserts = of(Kind.INSERT, changes, which);
        if (inserts.length > 0) {
            inserted(NOTHING_STAGED, changes.idAt(inserts[0]) >= 0);
        }
    }

    private static int[] of(Kind kind, ChangeSet changes, int[] which) {
        return IntStream.of(which).filter(row -> changes.kind(row) == kind).toArray();
    }

    /** Whether the id of a new record is known beforehand: reserved, or among the written fields. */
    private boolean hasKnownId(ChangeSet changes, int row) {
        if (changes.idAt(row) >= 0) {
            return true;
        }
        for (int field : idFields) {
            if (field < 0 || changes.rows().isNull(row, field)) {
                return false;
            }
        }
        return true;
    }

    private void copy(ChangeSet changes, int[] inserts, Answers answers) throws SQLException {
        boolean withId = changes.idAt(inserts[0]) >= 0;
        List<Column> columns = new ArrayList<>(withId ? staging.ids() : List.of());
        columns.addAll(staging.fields());
        RowBlock rows = changes.rows();
        int last = staging.fields().size() - 1;
        BinaryCopy copied = new BinaryCopy();
        for (int row : inserts) {
            copied.row(columns.size());
            if (withId) {
                int id = changes.idAt(row);
                copied.cells(changes.kept(), id, CellCodec.end(changes.kept(), id));
            }
            copied.cells(rows.data(), rows.at(row, 0), rows.end(row, last));
        }
        staging.in(
                table.sqlName() + " ("
                        + Sql.names("", columns.stream().map(Column::name).toList()) + ")",
                copied);
        for (int row : inserts) {
            if (withId) {
                answers.done(row);
            } else {
                answers.done(row, mappedId(rows, row));
            }
        }
    }

    /** The id of a record that is among its fields. */
    private Object mappedId(RowBlock rows, int row) {
        List<Object> parts = new ArrayList<>();
        for (int i = 0; i < idFields.length; i++) {
            parts.add(Objects.requireNonNull(
                    rows.value(row, idFields[i], staging.ids().get(i).wire().codec())));
        }
        return parts.size() == 1 ? parts.getFirst() : parts;
    }

    /**
     * Through the staging table, with what is stored read back. New records come back in the order in which their rows
     * were staged, so nothing has to be recognised by its value, which the table may have respelled. Where fewer come
     * back, a trigger has swallowed some, and halves are written until it is known which.
     */
    private void insert(ChangeSet changes, int[] inserts, Answers answers) throws SQLException {
        Savepoint before = connection.setSavepoint();
        List<Returned> stored = inserted(staging.changes(changes, inserts), changes.idAt(inserts[0]) >= 0);
        if (stored.size() == inserts.length) {
            for (int i = 0; i < inserts.length; i++) {
                answers.done(inserts[i], stored.get(i).id);
                if (triggers) {
                    answers.stored(inserts[i], stored.get(i).values);
                }
            }
        } else if (inserts.length == 1) {
            connection.rollback(before);
            answers.refused(inserts[0], List.of(NOT_WRITTEN));
            return;
        } else {
            connection.rollback(before);
            int middle = inserts.length / 2;
            insert(changes, Arrays.copyOfRange(inserts, 0, middle), answers);
            insert(changes, Arrays.copyOfRange(inserts, middle, inserts.length), answers);
            return;
        }
        connection.releaseSavepoint(before);
    }

    private List<Returned> inserted(int write, boolean withId) throws SQLException {
        StringBuilder names = new StringBuilder();
        StringBuilder values = new StringBuilder();
        for (int i = 0; withId && i < staging.ids().size(); i++) {
            names.append(Sql.name(staging.ids().get(i).name())).append(", ");
            values.append(Staging.cast("s.i" + i, staging.ids().get(i))).append(", ");
        }
        names.append(Sql.names("", staging.fields().stream().map(Column::name).toList()));
        for (int i = 0; i < staging.fields().size(); i++) {
            values.append(i == 0 ? "" : ", ")
                    .append(Staging.cast("s.f" + i, staging.fields().get(i)));
        }
        String overriding = staging.ids().stream().anyMatch(Column::alwaysIdentity) ? " OVERRIDING SYSTEM VALUE" : "";
        String sql = "INSERT INTO " + table.sqlName() + " (" + names + ")" + overriding + " SELECT " + values + " FROM "
                + staging.changesTable() + " s WHERE s.w = ? AND s.kind = " + StagedTable.INSERT
                + " ORDER BY s.n RETURNING " + returning("");
        List<Returned> stored = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    stored.add(returned(row, 1));
                }
            }
        }
        return stored;
    }

    private record Returned(Object id, @Nullable Object[] values) {}

    private String returning(String prefix) {
        List<String> columns = new ArrayList<>();
        staging.ids().forEach(id -> columns.add(Staging.read(prefix + Sql.name(id.name()), id)));
        staging.fields().forEach(field -> columns.add(Staging.read(prefix + Sql.name(field.name()), field)));
        return String.join(", ", columns);
    }

    private Returned returned(ResultSet row, int first) throws SQLException {
        List<@Nullable Object> ids = new ArrayList<>();
        int at = first;
        for (Column id : staging.ids()) {
            ids.add(ResultValues.read(row, at++, id.wire()));
        }
        @Nullable Object[] values = new Object[staging.fields().size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = ResultValues.read(row, at++, staging.fields().get(i).wire());
        }
        Object id = ids.size() == 1 ? Objects.requireNonNull(ids.getFirst()) : ids;
        return new Returned(id, values);
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
                + " AND " + table.mark() + " = s.mark RETURNING s.n" + (triggers ? ", " + returning("t.") : "");
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    int updated = row.getInt(1);
                    answers.done(updated);
                    if (triggers) {
                        answers.stored(updated, returned(row, 2).values);
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
