package dev.nachlauf.connectors.database.postgresql;

import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Takes numbers from a sequence, many at once. */
final class Sequences {
    /** Where nobody else takes numbers meanwhile they follow each other, and the first one says them all. */
    private static final String TAKE = """
            SELECT min(v), CASE WHEN max(v) - min(v) + 1 = count(*) THEN NULL ELSE array_agg(v ORDER BY v) END
            FROM (SELECT nextval(?::regclass) AS v FROM generate_series(1, ?)) taken""";

    private Sequences() {}

    /** Takes the id of a row. */
    @FunctionalInterface
    interface Taker {
        void take(int row, Long id);
    }

    /** A number for each of these rows. */
    static void reserve(Connection connection, String sequence, int[] rows, Taker taker) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(TAKE)) {
            statement.setString(1, sequence);
            statement.setInt(2, rows.length);
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                long first = row.getLong(1);
                Array scattered = row.getArray(2);
                Long[] all = scattered == null ? null : (Long[]) scattered.getArray();
                for (int i = 0; i < rows.length; i++) {
                    taker.take(rows[i], all == null ? first + i : all[i]);
                }
            }
        }
    }
}
