package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.IntStream;

/** How new records get into a table: straight by COPY where nothing speaks against it, else through the staging table. */
final class Insertions {
    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final boolean triggers;
    private final boolean straightCopy;
    /** The places of the id's columns among the written ones; -1 where one is not written. */
    private final int[] idFields;

    Insertions(Connection connection, Table table, Staging staging) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.idFields =
                staging.ids().stream().mapToInt(staging.fields()::indexOf).toArray();
        Set<Caution> cautions = table.cautions();
        this.triggers = table.rewritesRows();
        List<String> key = staging.keys().stream().map(Column::name).toList();
        this.straightCopy = !triggers
                && !cautions.contains(Caution.NO_VERSIONS)
                && !cautions.contains(Caution.ROW_SECURITY)
                && table.description().isUnique(key)
                && staging.fields().stream().noneMatch(column -> column.wire().needsCast());
    }

    void write(ChangeSet changes, int[] inserts, Answers answers) throws SQLException {
        if (straightCopy && IntStream.of(inserts).allMatch(row -> hasKnownId(changes, row))) {
            copy(changes, inserts, answers);
        } else {
            insert(changes, inserts, answers);
        }
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
        List<StoredRow> stored = inserted(staging.changes(changes, inserts), changes.idAt(inserts[0]) >= 0);
        if (stored.size() == inserts.length) {
            for (int i = 0; i < inserts.length; i++) {
                answers.done(inserts[i], stored.get(i).id());
                if (triggers) {
                    answers.stored(inserts[i], stored.get(i).values());
                }
            }
        } else if (inserts.length == 1) {
            connection.rollback(before);
            answers.refused(inserts[0], List.of(ChangeStatements.NOT_WRITTEN));
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

    /** Has the database insert what is staged; with what it has stored. */
    List<StoredRow> inserted(int write, boolean withId) throws SQLException {
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
                + " ORDER BY s.n RETURNING " + StoredRow.columns(staging, "");
        List<StoredRow> stored = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    stored.add(StoredRow.read(staging, row, 1));
                }
            }
        }
        return stored;
    }
}
