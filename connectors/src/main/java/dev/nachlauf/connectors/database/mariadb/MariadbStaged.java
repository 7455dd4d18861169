package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription.Reference;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/** How MariaDB speaks of staged changes: staged values have the types of their columns already. */
final class MariadbStaged extends StagedTable {
    private final Table table;
    private final Staging staging;

    MariadbStaged(Connection connection, Table table, Staging staging) {
        super(connection, table.description(), table.checks(), table.database(), staging.use());
        this.table = table;
        this.staging = staging;
    }

    @Override
    protected List<Referring> askReferring() throws SQLException {
        return Catalog.referring(connection(), table);
    }

    @Override
    protected String name(String identifier) {
        return Sql.name(identifier);
    }

    @Override
    protected String changesTable() {
        return staging.changesTable();
    }

    @Override
    protected int stage(ChangeSet changes, int[] which) throws SQLException {
        return staging.changes(changes, which);
    }

    @Override
    protected String sameRecord(String staged, String record) {
        return staging.sameRecord(staged, record);
    }

    @Override
    protected String value(int field) {
        return staging.fields().get(field).written("s.f" + field);
    }

    @Override
    protected String agrees(int field) {
        Column column = staging.fields().get(field);
        String stored = "t." + Sql.name(column.name());
        return column.wire() == Wire.TEXT
                ? "BINARY " + stored + " <=> BINARY s.f" + field
                : column.read(stored) + " <=> s.f" + field;
    }

    @Override
    protected String asColumn(String column, String expression) {
        return expression;
    }

    @Override
    protected String otherwise(String column) {
        return "(" + Objects.requireNonNullElse(table.column(column).defaultSql(), "NULL") + ")";
    }

    @Override
    protected Set<Integer> absent(Reference reference, int field, List<String> values) throws SQLException {
        int write = staging.values(field, values);
        String sql = "SELECT s.n FROM " + staging.changesTable() + " s WHERE s.w = ? AND NOT EXISTS (SELECT 1 FROM "
                + parentName(reference) + " p WHERE p."
                + Sql.name(reference.parentFields().getFirst()) + " = s.f" + field + ")";
        Set<Integer> absent = new HashSet<>();
        try (PreparedStatement statement = connection().prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    absent.add(row.getInt(1));
                }
            }
        }
        return absent;
    }

    /** The counter of a table is read, not moved. */
    @Override
    protected boolean reservedIdsMayBeTaken() {
        return true;
    }
}
