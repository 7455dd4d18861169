package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.core.system.ChangeSet;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;

/**
 * Chooses ids for new records ahead of a table's own counter, which goes on behind them once they are written. Somebody
 * else may get there first; then the record is refused for its id and gets another.
 */
final class IdCounter {
    private static final String NEXT = "SELECT t.auto_increment, @@auto_increment_increment, @@auto_increment_offset"
            + " FROM information_schema.tables t WHERE t.table_schema = ? AND t.table_name = ?";

    private final Connection connection;
    private final Table table;
    private final Shared shared;

    IdCounter(Connection connection, Table table, Shared shared) {
        this.connection = connection;
        this.table = table;
        this.shared = shared;
    }

    void give(ChangeSet changes, int[] inserts) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(NEXT)) {
            statement.setString(1, table.database());
            statement.setString(2, table.description().name());
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                long step = row.getLong(2);
                // where several servers count, each has numbers of its own
                long offset = row.getLong(3) % step;
                long next = Math.max(row.getLong(1), shared.lastId(table.sqlName()) + 1);
                next += Math.floorMod(offset - next, step);
                for (int insert : inserts) {
                    changes.identify(insert, next);
                    next += step;
                }
                shared.gave(table.sqlName(), next - step);
            }
        }
    }
}
