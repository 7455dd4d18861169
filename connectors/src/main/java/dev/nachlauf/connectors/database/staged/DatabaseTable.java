package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Traits;
import dev.nachlauf.core.system.TargetUse;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;

/**
 * What a database does with one table in its own way, over one connection. {@link StagedTarget} makes a target of it: it
 * begins and ends transactions, and finds out over which rows a statement fails.
 */
public interface DatabaseTable {
    StagedTable staged();

    Dialect dialect();

    Traits traits();

    RecordFinding finding();

    ChangeWriting writing();

    /** Whether ids of new records can be reserved. */
    boolean hasIds();

    /** Gives ids to new records. */
    void reserve(ChangeSet changes, int[] inserts) throws SQLException;

    /** Whether the database may spell a value of a field otherwise than it was sent. */
    boolean respells(int field);

    /** The values of a field as the database spells them, by the texts that were sent. */
    Map<String, Object> spelled(int field, List<String> values) throws SQLException;

    /** Whether keys can be equal to the database that differ to us. */
    boolean hasOwnEquality();

    /** A number for each key, the same for equal ones over all calls. */
    List<Long> classes(List<Object[]> keys) throws SQLException;

    /** What {@link #settle} has to know of the transaction under way. */
    Token token() throws SQLException;

    Settlement settle(Token token, ChangeSet inDoubt) throws SQLException;

    /** What the database is; see {@link dev.nachlauf.core.system.Identified}. */
    String identity() throws SQLException;

    /** Names the session; see {@link dev.nachlauf.core.system.HoldsSession}. */
    String session() throws SQLException;

    /** Another table over the same connection, or the same once more, used otherwise. */
    DatabaseTable beside(RecordDescription description, TargetUse use) throws SQLException;

    /** Nothing is staged any more, though the transaction goes on. */
    void forgetStaged() throws SQLException;

    /** A unit begins inside of a transaction in which others were written: constraints wait for its end again. */
    void unitBegins() throws SQLException;
}
