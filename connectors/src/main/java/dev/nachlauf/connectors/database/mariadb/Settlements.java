package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.staged.Witnesses;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * What became of a transaction whose end nobody saw. The server keeps no list of that, so the records are asked: while its
 * session is there, that is ended first; then the batch counts as committed if more than half of its records are as it
 * would have left them, for others may have written the same value to some. Where they are not, the batch counts as undone:
 * it is written again, which changes nothing where the records are there.
 */
final class Settlements {
    private Settlements() {}

    /** The server and the database. A backup that is restored into the same server is not told by it. */
    static String identity(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "SELECT CONCAT_WS(' ', (SELECT variable_value FROM"
                                + " information_schema.global_variables WHERE variable_name = 'SERVER_UID'), @@datadir, DATABASE())")) {
            row.next();
            return row.getString(1);
        }
    }

    static Settlement settle(MariadbStaged staged, Token token, ChangeSet inDoubt) throws SQLException {
        if (Sessions.isOpen(staged.connection(), token.text())) {
            Sessions.end(staged.connection(), token.text());
            return new Settlement.NotYet();
        }
        int needed = inDoubt.rows().rows() / 2 + 1;
        return Witnesses.of(staged, inDoubt) >= needed ? new Settlement.Committed() : new Settlement.RolledBack();
    }
}
