package dev.nachlauf.acceptance.torment;

import dev.nachlauf.contract.mariadb.PrivateMariadb;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** A MariaDB server. */
final class MariadbPlace implements Place, AutoCloseable {
    final PrivateMariadb server = PrivateMariadb.start();

    MariadbPlace() {
        execute(List.of(
                "CREATE TABLE valley (code varchar(8) PRIMARY KEY, title text)",
                "INSERT INTO valley SELECT concat('V', seq), concat('Valley ', seq) FROM seq_0_to_19"));
    }

    @Override
    public String connection() {
        return "mart";
    }

    @Override
    public Connection connect() throws SQLException {
        return server.connect(PrivateMariadb.ACCOUNT);
    }

    @Override
    public void endSessions(boolean hard) {
        try (Connection connection = connect();
                Statement statement = connection.createStatement()) {
            List<Long> sessions = new ArrayList<>();
            try (ResultSet row = statement.executeQuery("SELECT id FROM information_schema.processlist WHERE user = '"
                    + PrivateMariadb.ACCOUNT + "' AND id <> connection_id()")) {
                while (row.next()) {
                    sessions.add(row.getLong(1));
                }
            }
            for (long session : hard ? sessions.stream().limit(1).toList() : sessions) {
                statement.execute("KILL " + (hard ? "HARD " : "SOFT ") + "CONNECTION " + session);
            }
        } catch (SQLException e) {
            // it is down, or the session has ended by itself
        }
    }

    @Override
    public void kill() {
        server.kill();
    }

    @Override
    public void startAgain() {
        server.startAgain();
    }

    @Override
    public void hang(boolean stop) {
        Stage.signal(stop ? "STOP" : "CONT", server.pid());
    }

    @Override
    public void close() {
        server.close();
    }
}
