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
import org.jspecify.annotations.Nullable;

/**
 * A table and the changes that are staged for it, in the words of its database. In questions {@code t} is a record and
 * {@code s} a staged change, with the number of its write {@code s.w}, its row {@code s.n}, its kind {@code s.kind}, and
 * the values of the written fields {@code s.f0}, {@code s.f1} …
 */
public abstract class StagedTable {
    /** How a new record is staged; of updates and removals, see {@link #number}. */
    public static final int INSERT = 0;

    public static final int UPDATE = 1;
    public static final int DELETE = 2;

    private final Connection connection;
    private final RecordDescription description;
    private final List<Check> checks;
    private final String home;
    private final Use use;
    private @Nullable List<Referring> referring;

    /**
     * A table.
     *
     * @param home the schema or database in which it lies, and parents that are named without one
     */
    protected StagedTable(
            Connection connection, RecordDescription description, List<Check> checks, String home, Use use) {
        this.connection = connection;
        this.description = description;
        this.checks = checks;
        this.home = home;
        this.use = use;
    }

    /** How a kind of change is staged. */
    public static int number(Kind kind) {
        return switch (kind) {
            case INSERT -> INSERT;
            case UPDATE -> UPDATE;
            case DELETE -> DELETE;
            case NONE, LEAVE -> throw new IllegalArgumentException("nothing changes");
        };
    }

    public Connection connection() {
        return connection;
    }

    /** What the table demands. */
    public RecordDescription description() {
        return description;
    }

    /** The check constraints of the table. */
    List<Check> checks() {
        return checks;
    }

    /** Tables that refer to this one and forbid that a record goes that they refer to; asked for once. */
    public List<Referring> referring() throws SQLException {
        if (referring == null) {
            referring = askReferring();
        }
        return referring;
    }

    protected abstract List<Referring> askReferring() throws SQLException;

    /** The columns of the key by which records are found. */
    List<String> key() {
        return use.key();
    }

    /** The columns that are written. */
    List<String> fields() {
        return use.fields();
    }

    /** How the written fields are spelled. */
    Cells cells() {
        return use.cells();
    }

    /** Quotes an identifier. */
    protected abstract String name(String identifier);

    /** The quoted name of the table. */
    public String sqlName() {
        return name(home) + "." + name(description.name());
    }

    /** The quoted name of the table that a reference leads to; it may lie elsewhere. */
    protected String parentName(Reference reference) {
        String parent = reference.parent();
        int dot = parent.indexOf('.');
        return dot < 0
                ? name(home) + "." + name(parent)
                : name(parent.substring(0, dot)) + "." + name(parent.substring(dot + 1));
    }

    /** The name of the table in which changes are staged. */
    protected abstract String changesTable();

    /** Stages the changes of some rows, each with its number; the result is the number of the write. */
    protected abstract int stage(ChangeSet changes, int[] which) throws SQLException;

    /** The condition that a staged change and a record are the same record, whatever they are called in the question. */
    protected abstract String sameRecord(String staged, String record);

    /** A staged value of {@code s}, of the type of its column. */
    protected abstract String value(int field);

    /** The condition that {@code t} holds a staged value of {@code s} exactly as the database would store it. */
    protected abstract String agrees(int field);

    /** An expression as the column would hold it, with its length and precision. */
    protected abstract String asColumn(String column, String expression);

    /** What the database puts into a column that is not written. */
    protected abstract String otherwise(String column);

    /** The places of the values that no parent has; the reference has one field. */
    protected abstract Set<Integer> absent(Reference reference, int field, List<String> values) throws SQLException;

    /** Whether the id of a new record, though it was reserved, may have been taken by somebody else since. */
    protected abstract boolean reservedIdsMayBeTaken();

    /**
     * What a run does with the table.
     *
     * @param key the columns of the key by which records are found
     * @param fields the columns that are written
     * @param cells how they are spelled
     */
    public record Use(List<String> key, List<String> fields, Cells cells) {
        public Use {
            key = List.copyOf(key);
            fields = List.copyOf(fields);
        }
    }

    /**
     * A check constraint.
     *
     * @param sql its expression
     * @param columns the columns it speaks of
     */
    public record Check(String name, String sql, List<String> columns) {}

    /**
     * A table that refers to this one.
     *
     * @param sqlName its quoted name
     * @param name its name, for people
     * @param itself whether it is this very table
     * @param columns what refers to {@code parents} of this table
     */
    public record Referring(
            String constraint,
            String sqlName,
            String name,
            boolean itself,
            List<String> columns,
            List<String> parents) {}
}
