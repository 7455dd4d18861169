package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.system.ComparesKeys;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Numbers keys so that equal ones get the same number, by the equality of the table's columns: their type and collation.
 * The keys met so far lie in a temporary table that is made like them.
 */
final class KeyClasses {
    private static final String CLASSES = "pg_temp.nachlauf_class_";

    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final String classes;
    private boolean created;

    KeyClasses(Connection connection, Table table, Staging staging, int number) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.classes = CLASSES + number;
    }

    List<Long> of(List<Object[]> keys) throws SQLException {
        create();
        int write = staging.keys(keys);
        List<Column> columns = staging.keys();
        String names = IntStream.range(0, columns.size()).mapToObj(i -> "c" + i).collect(Collectors.joining(", "));
        String values = IntStream.range(0, columns.size())
                .mapToObj(i -> Staging.cast("k.k" + i, columns.get(i)))
                .collect(Collectors.joining(", "));
        String match = IntStream.range(0, columns.size())
                .mapToObj(i -> "c.c" + i + " = " + Staging.cast("k.k" + i, columns.get(i)))
                .collect(Collectors.joining(" AND "));
        List<@Nullable Long> found = new ArrayList<>(Collections.nCopies(keys.size(), null));
        try (PreparedStatement insert =
                        connection.prepareStatement("INSERT INTO " + classes + " (" + names + ") SELECT " + values
                                + " FROM " + staging.keysTable() + " k WHERE k.w = ? ON CONFLICT DO NOTHING");
                PreparedStatement ask = connection.prepareStatement("SELECT k.n, c.class FROM " + staging.keysTable()
                        + " k JOIN " + classes + " c ON " + match + " WHERE k.w = ?")) {
            insert.setInt(1, write);
            insert.executeUpdate();
            ask.setInt(1, write);
            try (ResultSet row = ask.executeQuery()) {
                while (row.next()) {
                    found.set(row.getInt(1), row.getLong(2));
                }
            }
        }
        return found.stream()
                .map(one -> one == null ? Long.valueOf(ComparesKeys.NONE) : one)
                .toList();
    }

    private void create() throws SQLException {
        if (created) {
            return;
        }
        String columns = IntStream.range(0, staging.keys().size())
                .mapToObj(i -> "t." + Sql.name(staging.keys().get(i).name()) + " AS c" + i)
                .collect(Collectors.joining(", "));
        String names =
                IntStream.range(0, staging.keys().size()).mapToObj(i -> "c" + i).collect(Collectors.joining(", "));
        try (Statement statement = connection.createStatement()) {
            statement.execute("CREATE TEMP TABLE " + classes.substring("pg_temp.".length()) + " AS SELECT " + columns
                    + " FROM " + table.sqlName() + " t WHERE false");
            statement.execute("ALTER TABLE " + classes + " ADD COLUMN class bigint GENERATED ALWAYS AS IDENTITY");
            statement.execute("CREATE UNIQUE INDEX ON " + classes + " (" + names + ")");
        }
        connection.commit();
        created = true;
    }
}
