package dev.nachlauf.acceptance.torment;

import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;

/** The rows of a job as records of a database, those that a database can hold. */
final class SourceRecords {
    private SourceRecords() {}

    /** Makes and fills the table; the result is how many records it holds. */
    static long fill(PrivateCluster cluster, RandomJob job) {
        cluster.execute(
                "annex",
                "CREATE TABLE " + job.source()
                        + " (code text, name text, beds integer, price numeric, opens date, valley text, note text, tag text, changed timestamp)");
        long count = 0;
        try (Connection connection = cluster.connect("annex");
                PreparedStatement insert = connection.prepareStatement(
                        "INSERT INTO " + job.source()
                                + " VALUES (?, ?, ?::integer, ?::numeric, ?::date, ?, ?, ?, timestamp '2026-01-01' + make_interval(mins => ?))")) {
            connection.setAutoCommit(false);
            for (String line : job.csv.lines().skip(1).toList()) {
                int tagged = line.lastIndexOf(';');
                String[] cells = line.substring(0, tagged).split(";", 7);
                if (cells[2].equals("many") || cells[4].contains("-13-")) {
                    continue;
                }
                for (int i = 0; i < cells.length; i++) {
                    String cell = cells[i].replaceAll("^\"|\"$", "").replace("\"\"", "\"");
                    insert.setString(i + 1, cell.isEmpty() ? null : cell);
                }
                insert.setString(8, line.substring(tagged + 1));
                insert.setInt(9, (int) (count % 1_000));
                insert.addBatch();
                count++;
            }
            insert.executeBatch();
            connection.commit();
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
        return count;
    }
}
