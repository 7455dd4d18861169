package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable.Check;
import dev.nachlauf.connectors.database.staged.StagedTable.Referring;
import dev.nachlauf.core.system.HoldsRecords.RecordType;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.Reference;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;

/** Looks at a database: reads the catalogue, never a record. */
final class Catalog {
    /**
     * What an engine can't undo is not written: a batch would be there by halves. Servers before 10.5 don't say which ids
     * they gave to new records.
     */
    private static final String UNDOABLE = """
            SUBSTRING_INDEX(VERSION(), '.', 1) * 100 + SUBSTRING_INDEX(SUBSTRING_INDEX(VERSION(), '.', 2), '.', -1) >= 1005
            AND t.table_type = 'BASE TABLE'
            AND t.engine IN (SELECT e.engine FROM information_schema.engines e WHERE e.transactions = 'YES')""";

    /** The server looks into every table for a question about columns that names none, so it is asked once for all. */
    private static final String TABLES = "SELECT t.table_name, t.table_comment, t.table_rows, " + UNDOABLE + """
             AND COALESCE(c.writable, 0)
            FROM information_schema.tables t LEFT JOIN (
                SELECT table_name, MAX(privileges LIKE '%insert%' AND privileges LIKE '%update%') AS writable
                FROM information_schema.columns WHERE table_schema = ? GROUP BY table_name) c ON c.table_name = t.table_name
            WHERE t.table_schema = ? ORDER BY t.table_name""";

    private static final String TABLE =
            "SELECT " + UNDOABLE + " FROM information_schema.tables t WHERE t.table_schema = ? AND t.table_name = ?";

    /** Triggers are shown to those who may make some; whoever may not reckons with them. */
    private static final String TRIGGERS = """
            SELECT EXISTS (SELECT 1 FROM information_schema.triggers
                           WHERE event_object_schema = ? AND event_object_table = ?)
            OR NOT EXISTS (SELECT 1 FROM information_schema.user_privileges WHERE privilege_type = 'TRIGGER')
            AND NOT EXISTS (SELECT 1 FROM information_schema.schema_privileges
                            WHERE table_schema = ? AND privilege_type = 'TRIGGER')
            AND NOT EXISTS (SELECT 1 FROM information_schema.table_privileges
                            WHERE table_schema = ? AND table_name = ? AND privilege_type = 'TRIGGER')""";

    private static final String COLUMNS = """
            SELECT column_name, data_type, column_type, is_nullable, column_default, extra, is_generated, privileges,
                   character_maximum_length, character_set_name, collation_name, numeric_precision, numeric_scale,
                   datetime_precision
            FROM information_schema.columns WHERE table_schema = ? AND table_name = ? ORDER BY ordinal_position""";

    /** A key over the beginning of a text alone makes nothing unique that is longer. */
    private static final String INDEXES = """
            SELECT index_name, column_name, non_unique, sub_part FROM information_schema.statistics
            WHERE table_schema = ? AND table_name = ? AND index_type = 'BTREE'
            ORDER BY index_name <> 'PRIMARY', index_name, seq_in_index""";

    private static final String CHECKS = """
            SELECT constraint_name, check_clause FROM information_schema.check_constraints
            WHERE constraint_schema = ? AND table_name = ? ORDER BY constraint_name""";

    private static final String REFERENCES = """
            SELECT k.constraint_name, k.referenced_table_schema, k.referenced_table_name, k.column_name, k.referenced_column_name
            FROM information_schema.key_column_usage k
            WHERE k.table_schema = ? AND k.table_name = ? AND k.referenced_table_name IS NOT NULL
            ORDER BY k.constraint_name, k.ordinal_position""";

    private static final String REFERRING = """
            SELECT k.constraint_name, k.table_schema, k.table_name, k.column_name, k.referenced_column_name
            FROM information_schema.key_column_usage k
            JOIN information_schema.referential_constraints r ON r.constraint_schema = k.constraint_schema
                 AND r.constraint_name = k.constraint_name AND r.table_name = k.table_name
            WHERE k.referenced_table_schema = ? AND k.referenced_table_name = ? AND r.delete_rule IN ('RESTRICT', 'NO ACTION')
            ORDER BY k.table_name, k.constraint_name, k.ordinal_position""";

    private Catalog() {}

    static List<RecordType> recordTypes(Connection connection, String database) throws SQLException {
        List<RecordType> types = new ArrayList<>();
        try (PreparedStatement statement = about(connection, TABLES, database, database);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                long about = row.getLong(3);
                OptionalLong estimate = row.wasNull() ? OptionalLong.empty() : OptionalLong.of(about);
                types.add(new RecordType(
                        row.getString(1),
                        Objects.requireNonNullElse(row.getString(2), ""),
                        row.getBoolean(4),
                        estimate));
            }
        }
        return types;
    }

    static Optional<Table> table(Connection connection, String database, String name) throws SQLException {
        boolean undoable;
        try (PreparedStatement statement = about(connection, TABLE, database, name);
                ResultSet row = statement.executeQuery()) {
            if (!row.next()) {
                return Optional.empty();
            }
            undoable = row.getBoolean(1);
        }
        List<Column> columns = new ArrayList<>();
        try (PreparedStatement statement = about(connection, COLUMNS, database, name);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                columns.add(Columns.of(row));
            }
        }
        Map<String, String> indexes = new HashMap<>();
        List<UniqueKey> unique = indexes(connection, database, name, indexes);
        RecordDescription description = new RecordDescription(
                name,
                undoable && columns.stream().anyMatch(column -> !column.field().readOnly()),
                columns.stream().map(Column::field).toList(),
                unique,
                references(connection, database, name));
        List<Check> checks = checks(connection, database, name, columns);
        boolean triggers = hasTriggers(connection, database, name);
        return Optional.of(new Table(database, description, columns, checks, Map.copyOf(indexes), triggers));
    }

    private static PreparedStatement about(Connection connection, String sql, String... names) throws SQLException {
        PreparedStatement statement = connection.prepareStatement(sql);
        for (int i = 0; i < names.length; i++) {
            statement.setString(i + 1, names[i]);
        }
        return statement;
    }

    private static boolean hasTriggers(Connection connection, String database, String name) throws SQLException {
        try (PreparedStatement statement = about(connection, TRIGGERS, database, name, database, database, name);
                ResultSet row = statement.executeQuery()) {
            row.next();
            return row.getBoolean(1);
        }
    }

    /** The unique keys; {@code leading} takes the name of an index by its first column. */
    private static List<UniqueKey> indexes(
            Connection connection, String database, String name, Map<String, String> leading) throws SQLException {
        Map<String, List<String>> unique = new LinkedHashMap<>();
        List<String> partial = new ArrayList<>();
        List<String> met = new ArrayList<>();
        try (PreparedStatement statement = about(connection, INDEXES, database, name);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                String index = row.getString(1);
                String column = row.getString(2);
                if (!met.contains(index)) {
                    met.add(index);
                    leading.putIfAbsent(column, index);
                }
                if (row.getObject(4) != null || column == null) {
                    partial.add(index);
                }
                if (!row.getBoolean(3)) {
                    unique.computeIfAbsent(index, any -> new ArrayList<>()).add(column);
                }
            }
        }
        return unique.entrySet().stream()
                .filter(key -> !partial.contains(key.getKey()))
                .map(key ->
                        new UniqueKey(key.getKey(), key.getValue(), key.getKey().equals("PRIMARY")))
                .toList();
    }

    /** Which columns a check speaks of, the catalogue says by its text alone. */
    private static List<Check> checks(Connection connection, String database, String name, List<Column> columns)
            throws SQLException {
        List<Check> checks = new ArrayList<>();
        try (PreparedStatement statement = about(connection, CHECKS, database, name);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                String clause = row.getString(2);
                checks.add(new Check(
                        row.getString(1),
                        clause,
                        columns.stream()
                                .map(Column::name)
                                .filter(column -> clause.contains(Sql.name(column)))
                                .toList()));
            }
        }
        return checks;
    }

    private static List<Reference> references(Connection connection, String database, String name) throws SQLException {
        Map<String, Reference> references = new LinkedHashMap<>();
        try (PreparedStatement statement = about(connection, REFERENCES, database, name);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                // a parent of another database is named with it
                String parent = row.getString(2).equals(database)
                        ? row.getString(3)
                        : row.getString(2) + "." + row.getString(3);
                Reference part =
                        new Reference(row.getString(1), List.of(row.getString(4)), parent, List.of(row.getString(5)));
                references.merge(
                        part.name(),
                        part,
                        (one, more) -> new Reference(
                                one.name(),
                                joined(one.fields(), more.fields()),
                                one.parent(),
                                joined(one.parentFields(), more.parentFields())));
            }
        }
        return List.copyOf(references.values());
    }

    /** Tables that refer to one and forbid that a record goes that they refer to. */
    static List<Referring> referring(Connection connection, Table table) throws SQLException {
        String name = table.description().name();
        Map<String, Referring> referring = new LinkedHashMap<>();
        try (PreparedStatement statement = about(connection, REFERRING, table.database(), name);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                String sqlName = Sql.name(row.getString(2)) + "." + Sql.name(row.getString(3));
                Referring part = new Referring(
                        row.getString(1),
                        sqlName,
                        row.getString(3),
                        sqlName.equals(table.sqlName()),
                        List.of(row.getString(4)),
                        List.of(row.getString(5)));
                referring.merge(
                        sqlName + part.constraint(),
                        part,
                        (one, more) -> new Referring(
                                one.constraint(),
                                one.sqlName(),
                                one.name(),
                                one.itself(),
                                joined(one.columns(), more.columns()),
                                joined(one.parents(), more.parents())));
            }
        }
        return List.copyOf(referring.values());
    }

    private static List<String> joined(List<String> one, List<String> more) {
        List<String> all = new ArrayList<>(one);
        all.addAll(more);
        return all;
    }
}
