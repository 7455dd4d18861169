package dev.nachlauf.connectors.database.staged;

import java.sql.Connection;
import java.sql.SQLException;

/** What targets over one connection share: whether a unit is under way, and whether anything is to last. */
final class TargetSession {
    private final Connection connection;
    private boolean unitOpen;
    private boolean rehearsing;

    TargetSession(Connection connection) {
        this.connection = connection;
    }

    /** From now on nothing lasts. */
    void rehearse() {
        rehearsing = true;
    }

    /** How a unit ends that begins now. */
    UnitEnding ending(DatabaseTable table) throws SQLException {
        return rehearsing ? UnitEnding.ofRehearsal(connection, table) : UnitEnding.ofTransaction(connection);
    }

    void unitBegun() {
        unitOpen = true;
    }

    void unitEnded() {
        unitOpen = false;
    }

    /** Ends the transaction of an earlier look that led to no change; in a rehearsal only what that has staged. */
    void look(DatabaseTable table) throws SQLException {
        if (unitOpen) {
            return;
        }
        if (rehearsing) {
            table.forgetStaged();
        } else {
            connection.rollback();
        }
    }
}
