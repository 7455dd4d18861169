package dev.nachlauf.acceptance.torment;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;

/** A database that jobs write to, with what can be done to it. */
interface Place {
    /** The name of the connection that leads there. */
    String connection();

    Connection connect() throws SQLException;

    /** Runs statements, one after the other. */
    default void execute(List<String> statements) {
        try (Connection connection = connect();
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Ends the sessions that Nachlauf has there, or the first one hard. */
    void endSessions(boolean hard);

    /** Ends the server as a power cut does. */
    void kill();

    void startAgain();

    /** Stops its processes, or lets them go on. */
    void hang(boolean stop);
}
