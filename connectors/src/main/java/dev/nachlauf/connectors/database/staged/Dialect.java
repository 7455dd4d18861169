package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import java.sql.SQLException;
import java.util.List;

/** What the errors of a database mean to us. */
public interface Dialect {
    /** Whether leaving rows out can't help: the connection is gone, or the server is short of room, busy, or shutting down. */
    boolean isAboutServer(SQLException e);

    /** Whether the error is about the rows that were sent, so that leaving some out helps. */
    boolean isAboutRows(SQLException e);

    /** Whether a constraint refused a row, so that the database can be asked which. */
    boolean isAboutConstraints(SQLException e);

    /** What is told of a single row that is refused for a reason that no question explains; never the text of the error. */
    List<Problem> unexplained(SQLException e);

    /** What an error means that ends the run. */
    CannotGoOn cannotGoOn(SQLException e);
}
