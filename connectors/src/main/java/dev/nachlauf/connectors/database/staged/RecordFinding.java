package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target.Found;
import java.sql.SQLException;
import java.util.function.Consumer;

/** How a database finds the records of a table. */
public interface RecordFinding {
    /** Whether there is surely no record to be found. */
    default boolean findsNone() throws SQLException {
        return false;
    }

    /** Hands over the records with the keys of some rows; see {@link dev.nachlauf.core.system.Target#find}. */
    void find(RowBlock rows, int[] which, Found found) throws SQLException;

    /** Hands over every record. */
    void list(Consumer<StoredRecord> to) throws SQLException;

    /** Hands over every record with the key of one of some rows. */
    void list(RowBlock rows, int[] which, Consumer<StoredRecord> to) throws SQLException;

    /** Hands over one record of each row that has any that agrees in some fields; there is a row and a field. */
    void alike(ChangeSet changes, int[] which, int[] fields, Found found) throws SQLException;

    /** There are records that this run has not seen: the table refused a key, or a rehearsal has put some there. */
    default void expectOthers() {
        // who asks the table for every batch finds them anyway
    }
}
