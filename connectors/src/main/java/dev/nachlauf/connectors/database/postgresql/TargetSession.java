package dev.nachlauf.connectors.database.postgresql;

import java.sql.Connection;
import java.sql.SQLException;

/** What targets over one connection share: their number, whether a unit is under way, and whether anything is to last. */
final class TargetSession {
    private final Connection connection;
    private final String schema;
    private int targets;
    private boolean unitOpen;
    private boolean rehearsing;

    TargetSession(Connection connection, String schema) {
        this.connection = connection;
        this.schema = schema;
    }

    Connection connection() {
        return connection;
    }

    String schema() {
        return schema;
    }

    /** The number of a further target, from 0. */
    int join() {
        return targets++;
    }

    /** From now on nothing lasts. */
    void rehearse() {
        rehearsing = true;
    }

    /** How a unit ends that begins now. */
    UnitEnding ending() throws SQLException {
        return rehearsing ? UnitEnding.ofRehearsal(connection) : UnitEnding.ofTransaction(connection);
    }

    void unitBegun() {
        unitOpen = true;
    }

    void unitEnded() {
        unitOpen = false;
    }

    /** Ends the transaction of an earlier look that led to no change; in a rehearsal only what that has staged. */
    void look(Staging staging) throws SQLException {
        if (unitOpen) {
            return;
        }
        if (rehearsing) {
            staging.empty(connection);
        } else {
            connection.rollback();
        }
    }
}
