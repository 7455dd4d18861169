package dev.nachlauf.connectors.database.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/** What sessions are set to, how they are named, and how one is ended that its process left behind. */
final class Sessions {
    /** A value that doesn't fit is refused, never cut; a moment is one of UTC; 0 is an id like others. */
    private static final String WRITING = "SET SESSION sql_mode = 'STRICT_ALL_TABLES,STRICT_TRANS_TABLES,NO_ZERO_DATE,"
            + "NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION,NO_AUTO_VALUE_ON_ZERO',"
            + " time_zone = '+00:00', lc_messages = 'en_US', foreign_key_checks = 1, unique_checks = 1,"
            + " check_constraint_checks = 1, max_statement_time = 300, lock_wait_timeout = 60,"
            + " innodb_lock_wait_timeout = 60, idle_transaction_timeout = 120,"
            // else the whole table may be read for the few records that an index leads to
            + " join_cache_level = 2, join_buffer_size = 8388608";

    private Sessions() {}

    static void setForReading(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("SET SESSION time_zone = '+00:00', max_statement_time = 300, lock_wait_timeout = 10");
            statement.execute("SET SESSION TRANSACTION READ ONLY");
            statement.execute("START TRANSACTION READ ONLY");
        }
    }

    static void setForWriting(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(WRITING);
        }
    }

    /** The number of the session and where it comes from, for the number alone is given anew after a restart. */
    static String name(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "SELECT id, host FROM information_schema.processlist WHERE id = connection_id()")) {
            row.next();
            return row.getLong(1) + " " + row.getString(2);
        }
    }

    /** Whether another session of this name is there. */
    static boolean isOpen(Connection connection, String session) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT COUNT(*) FROM information_schema.processlist WHERE id <> connection_id() AND CONCAT(id, ' ', host) = ?")) {
            statement.setString(1, session);
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                return row.getInt(1) > 0;
            }
        }
    }

    /** Ends the session of this name where it is still there. */
    static void end(Connection connection, String session) throws SQLException {
        if (isOpen(connection, session)) {
            long id = Long.parseLong(session.substring(0, session.indexOf(' ')));
            try (Statement statement = connection.createStatement()) {
                statement.execute("KILL CONNECTION " + id);
            } catch (SQLException e) {
                // it went by itself meanwhile
                if (isOpen(connection, session)) {
                    throw e;
                }
            }
        }
    }
}
