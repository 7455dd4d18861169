package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * What became of a transaction whose end nobody saw. The token names the server, its start, the transaction and its
 * backend. While the server is the one that was started then, it knows. After a hard stop it may have given our number
 * to a foreign transaction: then the records themselves are asked, of which one is enough, for a batch is atomic.
 */
final class Settlements {
    private static final String HERE = """
            SELECT (SELECT system_identifier FROM pg_control_system())::text || ' '
                   || extract(epoch FROM pg_postmaster_start_time())::text""";
    private static final int PARTS = 4;

    /** Somebody may have changed a record since, so more than one is asked. */
    private static final int MOST_WITNESSES = 100;

    private Settlements() {}

    static Token token(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "SELECT (" + HERE + ") || ' ' || pg_current_xact_id()::text || ' ' || pg_backend_pid()")) {
            row.next();
            return new Token(row.getString(1));
        }
    }

    static Settlement settle(Connection connection, Table table, Staging staging, Token token, List<Change> inDoubt)
            throws SQLException {
        String[] parts = token.text().split(" ");
        if (parts.length != PARTS) {
            throw new IllegalArgumentException("not a token of this connector: " + token.text());
        }
        String here;
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(HERE)) {
            row.next();
            here = row.getString(1);
        }
        Settlement settlement = here.equals(parts[0] + " " + parts[1])
                ? byStatus(connection, parts[2], Integer.parseInt(parts[3]))
                : byWitness(connection, table, staging, inDoubt);
        connection.rollback();
        return settlement;
    }

    private static Settlement byStatus(Connection connection, String transaction, int backend) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("SELECT pg_xact_status(?::xid8)")) {
            statement.setString(1, transaction);
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                String status = row.getString(1);
                if ("committed".equals(status)) {
                    return new Settlement.Committed();
                }
                if ("aborted".equals(status)) {
                    return new Settlement.RolledBack();
                }
            }
        }
        // a dead client is not a dead transaction: its backend may go on for a while
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid = ? AND backend_xid = ?::xid8::xid")) {
            statement.setInt(1, backend);
            statement.setString(2, transaction);
            statement.executeQuery().close();
        }
        return new Settlement.NotYet();
    }

    private static Settlement byWitness(Connection connection, Table table, Staging staging, List<Change> inDoubt)
            throws SQLException {
        int write = staging.changes(
                inDoubt, IntStream.range(0, inDoubt.size()).boxed().toList());
        String same = staging.sameRecord();
        if (exists(connection, table, staging, same, "s.kind = " + Staging.INSERT, write)) {
            return new Settlement.Committed();
        }
        for (int index = 0; index < Math.min(MOST_WITNESSES, inDoubt.size()); index++) {
            if (inDoubt.get(index) instanceof Change.Update update) {
                String after = update.changed().stream()
                        .mapToObj(field -> "t."
                                + Sql.name(staging.fields().get(field).name()) + " IS NOT DISTINCT FROM "
                                + Staging.cast("s.f" + field, staging.fields().get(field)))
                        .collect(Collectors.joining(" AND "));
                if (exists(connection, table, staging, same + " AND " + after, "s.n = " + index, write)) {
                    return new Settlement.Committed();
                }
            }
        }
        return new Settlement.RolledBack();
    }

    private static boolean exists(
            Connection connection, Table table, Staging staging, String match, String which, int write)
            throws SQLException {
        String sql = "SELECT EXISTS (SELECT FROM " + staging.changesTable() + " s JOIN " + table.sqlName() + " t ON "
                + match + " WHERE s.w = ? AND " + which + ")";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                return row.getBoolean(1);
            }
        }
    }
}
