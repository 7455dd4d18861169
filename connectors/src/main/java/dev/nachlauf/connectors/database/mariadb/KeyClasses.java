package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
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

/**
 * Numbers keys so that equal ones get the same number, by the collation of the table's columns. The keys met so far lie in a
 * temporary table with columns like them.
 */
final class KeyClasses {
    private final Connection connection;
    private final Staging staging;
    private final String classes;
    private boolean created;

    KeyClasses(Connection connection, Staging staging, int number) {
        this.connection = connection;
        this.staging = staging;
        this.classes = "nachlauf_class_" + number;
    }

    boolean needed() {
        return staging.keys().stream().anyMatch(Column::ownEquality);
    }

    List<Long> of(List<Object[]> keys) throws SQLException {
        create();
        int write = staging.keys(keys);
        String match = parts(i -> "c.c" + i + " = k.k" + i, " AND ");
        List<Long> found = new ArrayList<>(Collections.nCopies(keys.size(), ComparesKeys.NONE));
        try (PreparedStatement insert = connection.prepareStatement("INSERT INTO " + classes + " ("
                        + parts(i -> "c" + i, ", ") + ") SELECT " + parts(i -> "k.k" + i, ", ") + " FROM "
                        + staging.keysTable()
                        + " k WHERE k.w = ? ORDER BY k.n ON DUPLICATE KEY UPDATE class = class");
                PreparedStatement ask = connection.prepareStatement("SELECT k.n, c.class FROM " + staging.keysTable()
                        + " k STRAIGHT_JOIN " + classes + " c FORCE INDEX FOR JOIN (met) ON " + match
                        + " WHERE k.w = ?")) {
            insert.setInt(1, write);
            insert.executeUpdate();
            ask.setInt(1, write);
            try (ResultSet row = ask.executeQuery()) {
                while (row.next()) {
                    found.set(row.getInt(1), row.getLong(2));
                }
            }
        }
        return found;
    }

    private String parts(java.util.function.IntFunction<String> part, String between) {
        return IntStream.range(0, staging.keys().size()).mapToObj(part).collect(Collectors.joining(between));
    }

    private void create() throws SQLException {
        if (created) {
            return;
        }
        try (Statement statement = connection.createStatement()) {
            statement.execute("CREATE TEMPORARY TABLE " + classes + " (class bigint AUTO_INCREMENT PRIMARY KEY"
                    + parts(i -> ", c" + i + " " + staging.keys().get(i).staged() + " NOT NULL", "")
                    + ", UNIQUE met (" + parts(i -> "c" + i, ", ") + ")) ENGINE=InnoDB");
        }
        created = true;
    }
}
