package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
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
import java.util.Set;

/** How PostgreSQL speaks of staged changes. */
final class PostgresqlStaged implements StagedTable {
    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final List<String> fields;

    PostgresqlStaged(Connection connection, Table table, Staging staging) {
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

    /** A parent may lie in another schema. */
    @Override
    public String parentName(Reference reference) {
        String parent = reference.parent();
        int dot = parent.indexOf('.');
        return dot < 0
                ? Sql.name(table.schema()) + "." + Sql.name(parent)
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
        return Staging.cast("s.f" + field, staging.fields().get(field));
    }

    @Override
    public String agrees(int field) {
        Column column = staging.fields().get(field);
        return Staging.stored("s.f" + field, column) + " IS NOT DISTINCT FROM "
                + Staging.text("t." + Sql.name(column.name()));
    }

    @Override
    public String asColumn(String column, String expression) {
        return expression + "::" + table.column(column).sqlType();
    }

    @Override
    public String otherwise(String column) {
        Column of = table.column(column);
        return of.defaultSql() == null ? "NULL::" + of.sqlType() : "(" + of.defaultSql() + ")";
    }

    @Override
    public Set<Integer> absent(Reference reference, int field, List<String> values) throws SQLException {
        String sql = "SELECT v.n FROM unnest(?::text[]) WITH ORDINALITY v(value, n) WHERE NOT EXISTS (SELECT FROM "
                + parentName(reference) + " p WHERE p."
                + Sql.name(reference.parentFields().getFirst()) + " = v.value::"
                + staging.fields().get(field).castType() + ")";
        Set<Integer> absent = new HashSet<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setArray(1, connection.createArrayOf("text", values.toArray()));
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    absent.add((int) row.getLong(1) - 1);
                }
            }
        }
        return absent;
    }

    /** A sequence gives a number once. */
    @Override
    public boolean reservedIdsMayBeTaken() {
        return false;
    }
}
