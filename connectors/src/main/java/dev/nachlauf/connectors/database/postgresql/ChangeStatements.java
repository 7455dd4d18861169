package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.RecordDescription.Caution;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
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

    ChangeStatements(Connection connection, Table table, Staging staging) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        Set<Caution> cautions = table.description().cautions();
        this.triggers = cautions.contains(Caution.BEFORE_TRIGGERS) || cautions.contains(Caution.REWRITE_RULES);
        List<String> key = staging.keys().stream().map(Column::name).toList();
        this.straightCopy = !triggers
                && !cautions.contains(Caution.ROW_SECURITY)
                && table.description().isUnique(key)
                && staging.fields().stream().noneMatch(column -> column.wire().needsCast());
    }

    /** Writes the changes with these indices and answers them. */
    void write(List<Change> changes, List<Integer> indices, @Nullable Answer[] answers) throws SQLException {
        List<Integer> updates = of(Change.Update.class, changes, indices);
        List<Integer> deletes = of(Change.Delete.class, changes, indices);
        List<Integer> inserts = of(Change.Insert.class, changes, indices);
        if (!updates.isEmpty() || !deletes.isEmpty()) {
            List<Integer> others = new ArrayList<>(updates);
            others.addAll(deletes);
            int write = staging.changes(changes, others);
            if (!updates.isEmpty()) {
                update(changes, updates, write, answers);
            }
            if (!deletes.isEmpty()) {
                delete(changes, deletes, write, answers);
            }
        }
        if (!inserts.isEmpty()) {
            if (straightCopy
                    && inserts.stream().allMatch(index -> knownId((Change.Insert) changes.get(index)) != null)) {
                copy(changes, inserts, answers);
            } else {
                insert(changes, inserts, answers);
            }
        }
    }

    /** Runs the statements that these changes need over no rows at all; what is refused now is refused whatever the row. */
    void writeNothing(List<Change> changes, List<Integer> indices) throws SQLException {
        List<Integer> updates = of(Change.Update.class, changes, indices);
        if (!updates.isEmpty()) {
            updated(assignments(changes, updates), NOTHING_STAGED, List.of(), new Answer[0]);
        }
        if (!of(Change.Delete.class, changes, indices).isEmpty()) {
            delete(changes, List.of(), NOTHING_STAGED, new Answer[0]);
        }
        List<Integer> inserts = of(Change.Insert.class, changes, indices);
        if (!inserts.isEmpty()) {
            inserted(NOTHING_STAGED, isReserved(changes.get(inserts.getFirst())));
        }
    }

    private static List<Integer> of(Class<? extends Change> kind, List<Change> changes, List<Integer> indices) {
        return indices.stream()
                .filter(index -> kind.isInstance(changes.get(index)))
                .toList();
    }

    /** The id of a new record where it is known beforehand: reserved, or among the written fields. */
    private @Nullable Object knownId(Change.Insert insert) {
        if (insert.id() != null) {
            return insert.id();
        }
        List<Object> parts = new ArrayList<>();
        for (Column id : staging.ids()) {
            int field = staging.fields().indexOf(id);
            Object part = field < 0 ? null : insert.after()[field];
            if (part == null) {
                return null;
            }
            parts.add(part);
        }
        return parts.size() == 1 ? parts.getFirst() : parts;
    }

    private static boolean isReserved(Change change) {
        return change instanceof Change.Insert insert && insert.id() != null;
    }

    private void copy(List<Change> changes, List<Integer> inserts, @Nullable Answer[] answers) throws SQLException {
        boolean withId = isReserved(changes.get(inserts.getFirst()));
        List<Column> columns = new ArrayList<>(withId ? staging.ids() : List.of());
        columns.addAll(staging.fields());
        BinaryCopy rows = new BinaryCopy();
        for (int index : inserts) {
            Change.Insert insert = (Change.Insert) changes.get(index);
            rows.row(columns.size());
            if (withId) {
                rows.field(staging.ids().getFirst().wire(), insert.id());
            }
            for (int i = 0; i < staging.fields().size(); i++) {
                rows.field(staging.fields().get(i).wire(), insert.after()[i]);
            }
        }
        staging.in(
                table.sqlName() + " ("
                        + Sql.names("", columns.stream().map(Column::name).toList()) + ")",
                rows);
        for (int index : inserts) {
            answers[index] = new Answer.Done(knownId((Change.Insert) changes.get(index)), null);
        }
    }

    /**
     * Through the staging table, with what is stored read back. New records come back in the order in which their rows
     * were staged, so nothing has to be recognised by its value, which the table may have respelled. Where fewer come
     * back, a trigger has swallowed some, and halves are written until it is known which.
     */
    private void insert(List<Change> changes, List<Integer> inserts, @Nullable Answer[] answers) throws SQLException {
        Savepoint before = connection.setSavepoint();
        List<Returned> stored =
                inserted(staging.changes(changes, inserts), isReserved(changes.get(inserts.getFirst())));
        if (stored.size() == inserts.size()) {
            for (int i = 0; i < inserts.size(); i++) {
                Returned record = stored.get(i);
                answers[inserts.get(i)] = new Answer.Done(record.id, triggers ? record.values : null);
            }
        } else if (inserts.size() == 1) {
            connection.rollback(before);
            answers[inserts.getFirst()] = new Answer.Refused(List.of(NOT_WRITTEN));
            return;
        } else {
            connection.rollback(before);
            int middle = inserts.size() / 2;
            insert(changes, inserts.subList(0, middle), answers);
            insert(changes, inserts.subList(middle, inserts.size()), answers);
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
                + staging.changesTable() + " s WHERE s.w = ? AND s.kind = " + Staging.INSERT
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

    private void update(List<Change> changes, List<Integer> updates, int write, @Nullable Answer[] answers)
            throws SQLException {
        updated(assignments(changes, updates), write, changes, answers);
        unanswered(updates, write, answers);
    }

    /** Only fields that some row changes are named; a row that leaves one of them as it is gives it back untouched. */
    private String assignments(List<Change> changes, List<Integer> updates) {
        BitSet some = new BitSet();
        BitSet every = new BitSet();
        every.set(0, staging.fields().size());
        for (int index : updates) {
            BitSet changed = ((Change.Update) changes.get(index)).changed();
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

    private void updated(String assignments, int write, List<Change> changes, @Nullable Answer[] answers)
            throws SQLException {
        String sql = "UPDATE " + table.sqlName() + " t SET " + assignments + " FROM " + staging.changesTable()
                + " s WHERE s.w = ? AND s.kind = " + Staging.UPDATE + " AND " + staging.sameRecord()
                + " AND t.xmin = s.mark RETURNING s.n" + (triggers ? ", " + returning("t.") : "");
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    int index = row.getInt(1);
                    Object id = ((Change.Update) changes.get(index)).id();
                    answers[index] = new Answer.Done(id, triggers ? returned(row, 2).values : null);
                }
            }
        }
    }

    private void delete(List<Change> changes, List<Integer> deletes, int write, @Nullable Answer[] answers)
            throws SQLException {
        String sql = "DELETE FROM " + table.sqlName() + " t USING " + staging.changesTable()
                + " s WHERE s.w = ? AND s.kind = " + Staging.DELETE + " AND " + staging.sameRecord()
                + " AND t.xmin = s.mark RETURNING s.n";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    int index = row.getInt(1);
                    answers[index] = new Answer.Done(((Change.Delete) changes.get(index)).id(), null);
                }
            }
        }
        unanswered(deletes, write, answers);
    }

    /** A row without an answer was changed by somebody else, or swallowed: its version tells which. */
    private void unanswered(List<Integer> indices, int write, @Nullable Answer[] answers) throws SQLException {
        List<Integer> open =
                indices.stream().filter(index -> answers[index] == null).toList();
        if (open.isEmpty()) {
            return;
        }
        open.forEach(index -> answers[index] = new Answer.Moved());
        if (triggers) {
            String sql = "SELECT s.n FROM " + staging.changesTable() + " s JOIN " + table.sqlName() + " t ON "
                    + staging.sameRecord() + " WHERE s.w = ? AND t.xmin = s.mark";
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                statement.setInt(1, write);
                try (ResultSet row = statement.executeQuery()) {
                    while (row.next()) {
                        if (answers[row.getInt(1)] instanceof Answer.Moved) {
                            answers[row.getInt(1)] = new Answer.Refused(List.of(NOT_WRITTEN));
                        }
                    }
                }
            }
        }
    }
}
