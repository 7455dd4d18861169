package dev.nachlauf.connectors.database.staged;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import org.jspecify.annotations.Nullable;

/** How a unit of work ends: as a transaction, or, in a rehearsal, as a part of one that is never committed. */
final class UnitEnding {
    private final Connection connection;
    /** What a rehearsed unit goes back to; null where it is a transaction of its own. */
    private final @Nullable Savepoint begun;

    private UnitEnding(Connection connection, @Nullable Savepoint begun) {
        this.connection = connection;
        this.begun = begun;
    }

    static UnitEnding ofTransaction(Connection connection) {
        return new UnitEnding(connection, null);
    }

    static UnitEnding ofRehearsal(Connection connection, DatabaseTable table) throws SQLException {
        Savepoint begun = connection.setSavepoint();
        table.unitBegins();
        return new UnitEnding(connection, begun);
    }

    void keep() throws SQLException {
        if (begun == null) {
            connection.commit();
        } else {
            connection.releaseSavepoint(begun);
        }
    }

    void undo() throws SQLException {
        if (begun == null) {
            connection.rollback();
        } else {
            connection.rollback(begun);
        }
    }
}
