package dev.nachlauf.acceptance.torment;

import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/** A database of a PostgreSQL cluster. */
final class PostgresqlPlace implements Place {
    private final PrivateCluster cluster;
    private final String database;
    private List<Long> stopped = List.of();

    PostgresqlPlace(PrivateCluster cluster, String database) {
        this.cluster = cluster;
        this.database = database;
    }

    @Override
    public String connection() {
        return database;
    }

    @Override
    public Connection connect() throws SQLException {
        return cluster.connect(database);
    }

    /** The sessions that Nachlauf has opened. */
    private List<Long> backends() {
        List<Long> pids = new ArrayList<>();
        try (var connection = connect();
                var statement = connection.createStatement();
                var row = statement.executeQuery("SELECT pid FROM pg_stat_activity WHERE application_name = 'nachlauf'"
                        + " AND datname = current_database()")) {
            while (row.next()) {
                pids.add(row.getLong(1));
            }
        } catch (SQLException e) {
            // it is down
        }
        return pids;
    }

    @Override
    public void endSessions(boolean hard) {
        backends().stream().limit(hard ? 1 : Long.MAX_VALUE).forEach(pid -> Stage.signal(hard ? "9" : "TERM", pid));
    }

    @Override
    public void kill() {
        cluster.kill();
    }

    @Override
    public void startAgain() {
        cluster.startAgain();
    }

    @Override
    public void hang(boolean stop) {
        stopped = stop ? backends() : stopped;
        stopped.forEach(pid -> Stage.signal(stop ? "STOP" : "CONT", pid));
    }
}
