package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
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
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/** Looks at a schema: reads the catalogue, never a record. */
final class Catalog {
    /**
     * Rows can be added and changed, here and by this account. What PostgreSQL says of a view (8 and 4) it says only after
     * it has a lock, so of tables, which somebody may have locked, it is not asked.
     */
    private static final String WRITABLE = """
            CASE c.relkind WHEN 'v' THEN pg_relation_is_updatable(c.oid, true) & 12 = 12 ELSE c.relkind IN ('r', 'p') END
            AND has_table_privilege(c.oid, 'INSERT') AND has_table_privilege(c.oid, 'UPDATE')""";

    private static final String TABLES = """
            SELECT c.relname, coalesce(obj_description(c.oid, 'pg_class'), ''),
                   CASE WHEN c.reltuples < 0 AND c.relkind = 'r' THEN pg_relation_size(c.oid) / 64 ELSE c.reltuples::bigint END,
                   """ + WRITABLE + """

            FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
            WHERE n.nspname = ? AND c.relkind IN ('r', 'p', 'v', 'm', 'f') AND has_table_privilege(c.oid, 'SELECT')
            ORDER BY c.relname""";

    private static final String TABLE = """
            SELECT c.oid, c.relrowsecurity,
                   EXISTS (SELECT FROM pg_rewrite r WHERE r.ev_class = c.oid),
                   EXISTS (SELECT FROM pg_trigger t WHERE t.tgrelid = c.oid AND NOT t.tgisinternal
                           AND t.tgenabled IN ('O', 'A') AND t.tgtype & 66 <> 0),
                   EXISTS (SELECT FROM pg_trigger t WHERE t.tgrelid = c.oid AND NOT t.tgisinternal
                           AND t.tgenabled IN ('O', 'A') AND t.tgtype & 66 = 0),
                   """ + WRITABLE + """
                   , c.relkind IN ('v', 'f')
            FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
            WHERE n.nspname = ? AND c.relname = ? AND c.relkind IN ('r', 'p', 'v', 'm', 'f') AND has_table_privilege(c.oid, 'SELECT')""";

    private static final String COLUMNS = """
            SELECT a.attname, format_type(a.atttypid, a.atttypmod), b.typname, a.atttypmod, a.attnotnull,
                   pg_get_expr(d.adbin, d.adrelid), a.attidentity::text, a.attgenerated::text,
                   has_column_privilege(a.attrelid, a.attnum, 'INSERT') AND has_column_privilege(a.attrelid, a.attnum, 'UPDATE'),
                   (SELECT array_agg(e.enumlabel ORDER BY e.enumsortorder) FROM pg_enum e WHERE e.enumtypid = b.oid),
                   t.typtype = 'd', quote_ident(bn.nspname) || '.' || quote_ident(b.typname),
                   coalesce(co.collisdeterministic, true),
                   CASE r.relkind WHEN 'v' THEN pg_column_is_updatable(a.attrelid, a.attnum, true) ELSE true END
            FROM pg_attribute a
            JOIN pg_class r ON r.oid = a.attrelid
            JOIN pg_type t ON t.oid = a.atttypid
            JOIN pg_type b ON b.oid = CASE WHEN t.typtype = 'd' THEN t.typbasetype ELSE t.oid END
            JOIN pg_namespace bn ON bn.oid = b.typnamespace
            LEFT JOIN pg_collation co ON co.oid = a.attcollation
            LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum
            WHERE a.attrelid = ? AND a.attnum > 0 AND NOT a.attisdropped
            ORDER BY a.attnum""";

    private static final String UNIQUE = """
            SELECT i.relname, x.indisprimary,
                   (SELECT array_agg(a.attname ORDER BY k.n)
                    FROM unnest(x.indkey[0:x.indnkeyatts - 1]) WITH ORDINALITY k(num, n)
                    JOIN pg_attribute a ON a.attrelid = x.indrelid AND a.attnum = k.num)
            FROM pg_index x JOIN pg_class i ON i.oid = x.indexrelid
            WHERE x.indrelid = ? AND x.indisunique AND x.indisvalid AND x.indpred IS NULL AND x.indexprs IS NULL
            ORDER BY x.indisprimary DESC, i.relname""";

    private static final String LEADING = """
            SELECT DISTINCT a.attname FROM pg_index x JOIN pg_class i ON i.oid = x.indexrelid JOIN pg_am m ON m.oid = i.relam
            JOIN pg_attribute a ON a.attrelid = x.indrelid AND a.attnum = x.indkey[0]
            WHERE x.indrelid = ? AND x.indisvalid AND x.indpred IS NULL AND m.amname IN ('btree', 'hash')""";

    private static final String REFERENCES = """
            SELECT c.conname, n.nspname, p.relname, c.confrelid = c.conrelid,
                   (SELECT array_agg(a.attname ORDER BY k.n) FROM unnest(c.conkey) WITH ORDINALITY k(num, n)
                    JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = k.num),
                   (SELECT array_agg(a.attname ORDER BY k.n) FROM unnest(c.confkey) WITH ORDINALITY k(num, n)
                    JOIN pg_attribute a ON a.attrelid = c.confrelid AND a.attnum = k.num)
            FROM pg_constraint c JOIN pg_class p ON p.oid = c.confrelid JOIN pg_namespace n ON n.oid = p.relnamespace
            WHERE c.conrelid = ? AND c.contype = 'f' ORDER BY c.conname""";

    private static final String REFERRING = """
            SELECT c.conname, n.nspname, t.relname, c.confrelid = c.conrelid,
                   (SELECT array_agg(a.attname ORDER BY k.n) FROM unnest(c.conkey) WITH ORDINALITY k(num, n)
                    JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = k.num),
                   (SELECT array_agg(a.attname ORDER BY k.n) FROM unnest(c.confkey) WITH ORDINALITY k(num, n)
                    JOIN pg_attribute a ON a.attrelid = c.confrelid AND a.attnum = k.num)
            FROM pg_constraint c JOIN pg_class t ON t.oid = c.conrelid JOIN pg_namespace n ON n.oid = t.relnamespace
            WHERE c.confrelid = ?::regclass AND c.contype = 'f' AND c.confdeltype IN ('a', 'r') ORDER BY c.conname""";

    private static final String CHECKS = """
            SELECT c.conname, pg_get_expr(c.conbin, c.conrelid),
                   (SELECT array_agg(a.attname ORDER BY a.attnum) FROM pg_attribute a
                    WHERE a.attrelid = c.conrelid AND a.attnum = ANY (c.conkey))
            FROM pg_constraint c WHERE c.conrelid = ? AND c.contype = 'c' ORDER BY c.conname""";

    private static final String SEQUENCE = """
            SELECT pg_get_serial_sequence(?, ?) AS s
            WHERE coalesce(has_sequence_privilege(pg_get_serial_sequence(?, ?), 'USAGE'), false)""";

    private Catalog() {}

    static List<RecordType> recordTypes(Connection connection, String schema) throws SQLException {
        List<RecordType> types = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(TABLES)) {
            statement.setString(1, schema);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    long estimate = row.getLong(3);
                    types.add(new RecordType(
                            row.getString(1),
                            row.getString(2),
                            row.getBoolean(4),
                            estimate < 0 ? OptionalLong.empty() : OptionalLong.of(estimate)));
                }
            }
        }
        return types;
    }

    /** A table that was there when it was looked at; an error of the server's kind where it is gone. */
    static Table existing(Connection connection, String schema, String name) throws SQLException {
        return table(connection, schema, name).orElseThrow(() -> new SQLException("the table is gone", "42P01"));
    }

    static Optional<Table> table(Connection connection, String schema, String name) throws SQLException {
        long oid;
        boolean writable;
        Set<Caution> cautions = EnumSet.noneOf(Caution.class);
        try (PreparedStatement statement = connection.prepareStatement(TABLE)) {
            statement.setString(1, schema);
            statement.setString(2, name);
            try (ResultSet row = statement.executeQuery()) {
                if (!row.next()) {
                    return Optional.empty();
                }
                oid = row.getLong(1);
                note(cautions, Caution.ROW_SECURITY, row.getBoolean(2));
                note(cautions, Caution.REWRITE_RULES, row.getBoolean(3));
                note(cautions, Caution.BEFORE_TRIGGERS, row.getBoolean(4));
                note(cautions, Caution.AFTER_TRIGGERS, row.getBoolean(5));
                writable = row.getBoolean(6);
                note(cautions, Caution.NO_VERSIONS, row.getBoolean(7));
            }
        }
        List<Column> columns = columns(connection, oid);
        List<UniqueKey> unique = unique(connection, oid);
        List<Reference> references = references(connection, oid, schema, cautions);
        RecordDescription description = new RecordDescription(
                name, writable, columns.stream().map(Column::field).toList(), unique, references);
        return Optional.of(new Table(
                schema,
                description,
                Set.copyOf(cautions),
                columns,
                checks(connection, oid),
                sequence(connection, schema, name, unique),
                leading(connection, oid)));
    }

    private static void note(Set<Caution> cautions, Caution caution, boolean applies) {
        if (applies) {
            cautions.add(caution);
        }
    }

    private static List<Column> columns(Connection connection, long oid) throws SQLException {
        List<Column> columns = new ArrayList<>();
        try (PreparedStatement statement = byOid(connection, COLUMNS, oid);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                columns.add(Columns.of(row));
            }
        }
        return columns;
    }

    private static List<UniqueKey> unique(Connection connection, long oid) throws SQLException {
        List<UniqueKey> keys = new ArrayList<>();
        try (PreparedStatement statement = byOid(connection, UNIQUE, oid);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                keys.add(new UniqueKey(row.getString(1), Columns.labels(row.getArray(3)), row.getBoolean(2)));
            }
        }
        return keys;
    }

    private static List<Reference> references(Connection connection, long oid, String schema, Set<Caution> cautions)
            throws SQLException {
        List<Reference> references = new ArrayList<>();
        try (PreparedStatement statement = byOid(connection, REFERENCES, oid);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                note(cautions, Caution.SELF_REFERENCE, row.getBoolean(4));
                // a parent of another schema is named with it
                String parent =
                        row.getString(2).equals(schema) ? row.getString(3) : row.getString(2) + "." + row.getString(3);
                references.add(new Reference(
                        row.getString(1), Columns.labels(row.getArray(5)), parent, Columns.labels(row.getArray(6))));
            }
        }
        return references;
    }

    /** Tables that refer to one and forbid that a record goes that they refer to. */
    static List<Referring> referring(Connection connection, Table table) throws SQLException {
        List<Referring> referring = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(REFERRING)) {
            statement.setString(1, table.sqlName());
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    referring.add(new Referring(
                            row.getString(1),
                            Sql.name(row.getString(2)) + "." + Sql.name(row.getString(3)),
                            row.getString(3),
                            row.getBoolean(4),
                            Columns.labels(row.getArray(5)),
                            Columns.labels(row.getArray(6))));
                }
            }
        }
        return referring;
    }

    private static List<Check> checks(Connection connection, long oid) throws SQLException {
        List<Check> checks = new ArrayList<>();
        try (PreparedStatement statement = byOid(connection, CHECKS, oid);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                checks.add(new Check(row.getString(1), row.getString(2), Columns.labels(row.getArray(3))));
            }
        }
        return checks;
    }

    private static Set<String> leading(Connection connection, long oid) throws SQLException {
        Set<String> columns = new HashSet<>();
        try (PreparedStatement statement = byOid(connection, LEADING, oid);
                ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                columns.add(row.getString(1));
            }
        }
        return Set.copyOf(columns);
    }

    private static Optional<String> sequence(Connection connection, String schema, String name, List<UniqueKey> unique)
            throws SQLException {
        Optional<UniqueKey> primary = unique.stream().filter(UniqueKey::primary).findFirst();
        if (primary.isEmpty() || primary.get().fields().size() != 1) {
            return Optional.empty();
        }
        try (PreparedStatement statement = connection.prepareStatement(SEQUENCE)) {
            String table = Sql.name(schema) + "." + Sql.name(name);
            String column = primary.get().fields().getFirst();
            statement.setString(1, table);
            statement.setString(2, column);
            statement.setString(3, table);
            statement.setString(4, column);
            try (ResultSet row = statement.executeQuery()) {
                return row.next() ? Optional.ofNullable(row.getString(1)) : Optional.empty();
            }
        }
    }

    private static PreparedStatement byOid(Connection connection, String sql, long oid) throws SQLException {
        PreparedStatement statement = connection.prepareStatement(sql);
        statement.setLong(1, oid);
        return statement;
    }
}
