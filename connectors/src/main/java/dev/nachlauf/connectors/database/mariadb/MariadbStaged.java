package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription;
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
final class MariadbStaged implements StagedTable {
    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final List<String> fields;

    MariadbStaged(Connection connection, Table table, Staging staging) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.fields = staging.fields().stream().map(Column::name).toList();
    }

    @Override
    public Connection connection() {
        return connection;
    }

    @Override
    public RecordDescription description() {
        return table.description();
    }

    @Override
    public List<Check> checks() {
        return table.checks();
    }

    @Override
    public List<Referring> referring() throws SQLException {
        return Catalog.referring(connection, table);
    }

    @Override
    public List<String> key() {
        return staging.keys().stream().map(Column::name).toList();
    }

    @Override
    public List<String> fields() {
        return fields;
    }

    @Override
    public Cells cells() {
        return staging.cells();
    }

    @Override
    public String name(String identifier) {
        return Sql.name(identifier);
    }

    @Override
    public String sqlName() {
        return table.sqlName();
    }

    /** A parent may lie in another database. */
    @Override
    public String parentName(Reference reference) {
        String parent = reference.parent();
        int dot = parent.indexOf('.');
        return dot < 0
                ? Sql.name(table.database()) + "." + Sql.name(parent)
                : Sql.name(parent.substring(0, dot)) + "." + Sql.name(parent.substring(dot + 1));
    }

    @Override
    public String changesTable() {
        return staging.changesTable();
    }

    @Override
    public int stage(ChangeSet changes, int[] which) throws SQLException {
        return staging.changes(changes, which);
    }

    @Override
    public String sameRecord(String staged, String record) {
        return staging.sameRecord(staged, record);
    }

    @Override
    public String value(int field) {
        return staging.fields().get(field).written("s.f" + field);
    }

    @Override
    public String agrees(int field) {
        Column column = staging.fields().get(field);
        String stored = "t." + Sql.name(column.name());
        return column.wire() == Wire.TEXT
                ? "BINARY " + stored + " <=> BINARY s.f" + field
                : column.read(stored) + " <=> s.f" + field;
    }

    @Override
    public String asColumn(String column, String expression) {
        return expression;
    }

    @Override
    public String otherwise(String column) {
        return "(" + Objects.requireNonNullElse(table.column(column).defaultSql(), "NULL") + ")";
    }

    @Override
    public Set<Integer> absent(Reference reference, int field, List<String> values) throws SQLException {
        int write = staging.values(field, values);
        String sql = "SELECT s.n FROM " + staging.changesTable() + " s WHERE s.w = ? AND NOT EXISTS (SELECT 1 FROM "
                + parentName(reference) + " p WHERE p."
                + Sql.name(reference.parentFields().getFirst()) + " = s.f" + field + ")";
        Set<Integer> absent = new HashSet<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
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
    public boolean reservedIdsMayBeTaken() {
        return true;
    }
}
