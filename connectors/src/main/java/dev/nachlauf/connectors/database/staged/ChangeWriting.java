package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import java.sql.SQLException;

/** How a database writes changes to a table. It knows nothing of refusals. */
public interface ChangeWriting {
    /** Writes the changes of some rows and answers them, after all constraints have spoken. */
    void write(ChangeSet changes, int[] which, Answers answers) throws SQLException;

    /** Does what {@link #write} does for no row at all; what is refused now is refused whatever the row. */
    void writeNothing(ChangeSet changes, int[] which) throws SQLException;
}
