package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.Reference;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Set;

/**
 * A table and the changes that are staged for it, in the words of its database. In questions {@code t} is a record and
 * {@code s} a staged change, with the number of its write {@code s.w}, its row {@code s.n}, its kind {@code s.kind}, and
 * the values of the written fields {@code s.f0}, {@code s.f1} …
 */
public interface StagedTable {
    /** How a new record is staged; of updates and removals, see {@link #number}. */
    int INSERT = 0;

    int UPDATE = 1;
    int DELETE = 2;

    /** How a kind of change is staged. */
    static int number(Kind kind) {
        return switch (kind) {
            case INSERT -> INSERT;
            case UPDATE -> UPDATE;
            case DELETE -> DELETE;
            case NONE, LEAVE -> throw new IllegalArgumentException("nothing changes");
        };
    }

    Connection connection();

    /** What the table demands. */
    RecordDescription description();

    /** The check constraints of the table. */
    List<Check> checks();

    /** Tables that refer to this one and forbid that a record goes that they refer to. */
    List<Referring> referring() throws SQLException;

    /** The columns of the key by which records are found. */
    List<String> key();

    /** The columns that are written. */
    List<String> fields();

    /** How the written fields are spelled. */
    Cells cells();

    /** Quotes an identifier. */
    String name(String identifier);

    /** The quoted name of the table. */
    String sqlName();

    /** The quoted name of the table that a reference leads to. */
    String parentName(Reference reference);

    /** The name of the table in which changes are staged. */
    String changesTable();

    /** Stages the changes of some rows, each with its number; the result is the number of the write. */
    int stage(ChangeSet changes, int[] which) throws SQLException;

    /** The condition that a staged change and a record are the same record, whatever they are called in the question. */
    String sameRecord(String staged, String record);

    /** A staged value of {@code s}, of the type of its column. */
    String value(int field);

    /** The condition that {@code t} holds a staged value of {@code s} exactly as the database would store it. */
    String agrees(int field);

    /** An expression as the column would hold it, with its length and precision. */
    String asColumn(String column, String expression);

    /** What the database puts into a column that is not written. */
    String otherwise(String column);

    /** The places of the values that no parent has; the reference has one field. */
    Set<Integer> absent(Reference reference, int field, List<String> values) throws SQLException;

    /** Whether the id of a new record, though it was reserved, may have been taken by somebody else since. */
    boolean reservedIdsMayBeTaken();

    /**
     * A check constraint.
     *
     * @param sql its expression
     * @param columns the columns it speaks of
     */
    record Check(String name, String sql, List<String> columns) {}

    /**
     * A table that refers to this one.
     *
     * @param sqlName its quoted name
     * @param name its name, for people
     * @param itself whether it is this very table
     * @param columns what refers to {@code parents} of this table
     */
    record Referring(
            String constraint,
            String sqlName,
            String name,
            boolean itself,
            List<String> columns,
            List<String> parents) {}
}
