package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription.Reference;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** How PostgreSQL speaks of staged changes. */
final class PostgresqlStaged extends StagedTable {
    private final Table table;
    private final Staging staging;

    PostgresqlStaged(Connection connection, Table table, Staging staging) {
        super(connection, table.description(), table.checks(), table.schema(), staging.use());
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
        return Staging.cast("s.f" + field, staging.fields().get(field));
    }

    @Override
    protected String agrees(int field) {
        Column column = staging.fields().get(field);
        return Staging.stored("s.f" + field, column) + " IS NOT DISTINCT FROM "
                + Staging.text("t." + Sql.name(column.name()));
    }

    @Override
    protected String asColumn(String column, String expression) {
        return expression + "::" + table.column(column).sqlType();
    }

    @Override
    protected String otherwise(String column) {
        Column of = table.column(column);
        return of.defaultSql() == null ? "NULL::" + of.sqlType() : "(" + of.defaultSql() + ")";
    }

    @Override
    protected Set<Integer> absent(Reference reference, int field, List<String> values) throws SQLException {
        String sql = "SELECT v.n FROM unnest(?::text[]) WITH ORDINALITY v(value, n) WHERE NOT EXISTS (SELECT FROM "
                + parentName(reference) + " p WHERE p."
                + Sql.name(reference.parentFields().getFirst()) + " = v.value::"
                + staging.fields().get(field).castType() + ")";
        Set<Integer> absent = new HashSet<>();
        try (PreparedStatement statement = connection().prepareStatement(sql)) {
            statement.setArray(1, connection().createArrayOf("text", values.toArray()));
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
    protected boolean reservedIdsMayBeTaken() {
        return false;
    }
}
