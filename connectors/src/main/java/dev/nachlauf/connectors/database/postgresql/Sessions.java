package dev.nachlauf.connectors.database.postgresql;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;

/** What sessions are set to, how they are named, and how one is ended that its process left behind. */
final class Sessions {
    /** What every session is set to. Time-outs of the client stand above those of the server, which can say why. */
    private static final List<String> ALWAYS =
            List.of("SET timezone = 'UTC'", "SET client_min_messages = error", "SET jit = off");

    /** Servers on some systems don't know these; without them a client that is gone is noticed later. */
    private static final List<String> WHERE_KNOWN = List.of(
            "SET client_connection_check_interval = '2s'",
            "SET tcp_keepalives_idle = 20",
            "SET tcp_keepalives_interval = 5",
            "SET tcp_keepalives_count = 4",
            "SET tcp_user_timeout = '40s'");

    private static final List<String> WRITING = List.of(
            // the session may have looked before
            "SET default_transaction_read_only = off",
            "SET synchronous_commit = on",
            // with the default of 4 the checks of foreign keys read small parents from end to end
            "SET random_page_cost = 1.1",
            "SET lock_timeout = '60s'",
            "SET statement_timeout = '5min'",
            "SET idle_in_transaction_session_timeout = '2min'");

    private static final List<String> LOOKING = List.of(
            "SET default_transaction_read_only = on",
            "SET lock_timeout = '10s'",
            "SET statement_timeout = '2min'",
            "SET idle_in_transaction_session_timeout = '10min'");

    private static final List<String> READING = List.of(
            "SET default_transaction_read_only = on",
            "SET lock_timeout = '10s'",
            "SET statement_timeout = '5min'",
            "SET idle_in_transaction_session_timeout = '10min'");

    /** How long a client waits for an answer, in seconds; longer than any statement may take. */
    static final int ANSWER_SECONDS = 330;

    private Sessions() {}

    static void setForWriting(Connection connection) throws SQLException {
        set(connection, WRITING);
        KeySearch.set(connection, "SESSION", KeySearch.BY_INDEX);
    }

    static void setForLooking(Connection connection) throws SQLException {
        set(connection, LOOKING);
    }

    static void setForReading(Connection connection) throws SQLException {
        set(connection, READING);
    }

    /** Each statement is a transaction of its own, so one that is refused leaves nothing behind. */
    private static void set(Connection connection, List<String> settings) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(String.join("; ", ALWAYS) + "; " + String.join("; ", settings));
            for (String setting : WHERE_KNOWN) {
                try {
                    statement.execute(setting);
                } catch (SQLException e) {
                    if (Sql.isAboutServer(e)) {
                        throw e;
                    }
                }
            }
        }
    }

    /** The backend and its start, for the number alone is given anew. */
    static String name(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "SELECT pid || ' ' || extract(epoch FROM backend_start)::text FROM pg_stat_activity WHERE pid = pg_backend_pid()")) {
            row.next();
            return row.getString(1);
        }
    }

    /** Ends the session of this name where it is still there. */
    static void end(Connection connection, String session) throws SQLException {
        String[] parts = session.split(" ");
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid = ? AND extract(epoch FROM backend_start)::text = ?")) {
            statement.setInt(1, Integer.parseInt(parts[0]));
            statement.setString(2, parts[1]);
            statement.executeQuery().close();
        }
    }
}
