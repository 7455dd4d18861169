package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.staged.Witnesses;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What became of a transaction whose end nobody saw. The token names the server, its start, its last recovery, the
 * transaction and its backend. While server and recovery are the ones of then, the server knows what became of the
 * number; else it may have given the number to a foreign transaction. Even a number that is committed is believed only
 * beside a record that bears witness: one that is as the batch would have left it, compared by id, key and values in the
 * database's own words. Without the number, more than half of the records must bear witness, for others may have written
 * the same value to some. Where there is no witness, the batch counts as undone: it is written again, which changes
 * nothing where the records are there.
 */
final class Settlements {
    /**
     * A backend that dies by a signal makes the server recover without a new start, and numbers that were not yet on disk
     * are given anew: only the time of the statistics' last reset tells of that.
     */
    private static final String INSTANCE = """
            SELECT (SELECT system_identifier FROM pg_control_system())::text || ' '
                   || extract(epoch FROM pg_postmaster_start_time())::text || ' '
                   || (SELECT coalesce(extract(epoch FROM stats_reset)::text, '-') FROM pg_stat_bgwriter)""";

    private static final int PARTS = 5;
    private static final int TRANSACTION = 3;
    private static final int BACKEND = 4;

    private Settlements() {}

    /** The server, its line of history, and the database: a restored one differs in one of them. */
    static String identity(Connection connection) throws SQLException {
        return text(connection, """
                SELECT (SELECT system_identifier FROM pg_control_system())::text || ' '
                       || CASE WHEN pg_is_in_recovery() THEN 'standby' ELSE left(pg_walfile_name(pg_current_wal_lsn()), 8) END
                       || ' ' || (SELECT oid FROM pg_database WHERE datname = current_database())""");
    }

    static Token token(Connection connection) throws SQLException {
        return new Token(text(
                connection,
                "SELECT (" + INSTANCE + ") || ' ' || pg_current_xact_id()::text || ' ' || pg_backend_pid()"));
    }

    static Settlement settle(PostgresqlStaged staged, Token token, ChangeSet inDoubt) throws SQLException {
        Connection connection = staged.connection();
        String[] parts = token.text().split(" ");
        // tokens of earlier versions don't say enough: then the records alone are asked
        boolean known = parts.length == PARTS
                && text(connection, INSTANCE)
                        .equals(String.join(" ", List.of(parts).subList(0, TRANSACTION)));
        String status = known ? status(connection, parts[TRANSACTION]) : null;
        if ("in progress".equals(status)) {
            end(connection, parts[TRANSACTION], Integer.parseInt(parts[BACKEND]));
            return new Settlement.NotYet();
        }
        if ("aborted".equals(status)) {
            return new Settlement.RolledBack();
        }
        int needed = "committed".equals(status) ? 1 : inDoubt.rows().rows() / 2 + 1;
        return Witnesses.of(staged, inDoubt) >= needed ? new Settlement.Committed() : new Settlement.RolledBack();
    }

    private static String text(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(sql)) {
            row.next();
            return row.getString(1);
        }
    }

    /** Null where the transaction is so old that the server has forgotten it. */
    private static @Nullable String status(Connection connection, String transaction) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("SELECT pg_xact_status(?::xid8)")) {
            statement.setString(1, transaction);
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                return row.getString(1);
            }
        }
    }

    /** A dead client is not a dead transaction: its backend may go on for a while. */
    private static void end(Connection connection, String transaction, int backend) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid = ? AND backend_xid = ?::xid8::xid")) {
            statement.setInt(1, backend);
            statement.setString(2, transaction);
            statement.executeQuery().close();
        }
    }
}
