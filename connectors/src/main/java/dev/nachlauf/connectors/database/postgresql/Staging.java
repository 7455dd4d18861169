package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.TargetUse;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import org.postgresql.copy.CopyManager;
import org.postgresql.copy.CopyOut;

/**
 * The two temporary tables of a target: keys to look for, and changes to apply. Their columns have base types without
 * length or scale, so that staging itself can't refuse a row. Rows of one write carry its number, so nothing has to be
 * deleted between two writes of a transaction.
 */
final class Staging {
    private final CopyManager copy;
    private final String keysTable;
    private final String changesTable;
    private final List<Column> keys;
    private final List<Column> ids;
    private final List<Column> fields;
    private final Cells cells;
    private int writes;

    /**
     * Creates the two tables.
     *
     * @param number tells the tables of several targets over one connection apart
     */
    Staging(Connection connection, Table table, TargetUse use, int number) throws SQLException {
        keysTable = "nachlauf_key_" + number;
        changesTable = "nachlauf_change_" + number;
        copy = connection.unwrap(PGConnection.class).getCopyAPI();
        keys = use.key().stream().map(table::column).toList();
        ids = table.idColumns(use.identity()).stream().map(table::column).toList();
        fields = use.fields().stream().map(table::column).toList();
        boolean versions = !table.cautions().contains(Caution.NO_VERSIONS);
        cells = new Cells(
                codecs(fields),
                use.key().stream().map(use.fields()::indexOf).toList(),
                codecs(ids),
                versions ? CellCodec.INT4 : CellCodec.TEXT);
        try (Statement statement = connection.createStatement()) {
            statement.execute("CREATE TEMP TABLE " + keysTable + " (w integer, n integer" + columns("k", keys)
                    + ") ON COMMIT DELETE ROWS");
            // mask: a character for each field, 1 where an update changes it
            statement.execute("CREATE TEMP TABLE " + changesTable
                    + " (w integer, n integer, kind smallint, mark " + (versions ? "xid" : "text") + ", mask text"
                    + columns("i", ids) + columns("f", fields) + ") ON COMMIT DELETE ROWS");
        }
    }

    private static List<CellCodec> codecs(List<Column> columns) {
        return columns.stream().map(column -> column.wire().codec()).toList();
    }

    /** What a run does with the table. */
    StagedTable.Use use() {
        return new StagedTable.Use(names(keys), names(fields), cells);
    }

    private static List<String> names(List<Column> columns) {
        return columns.stream().map(Column::name).toList();
    }

    /** How the database spells the records. */
    Cells cells() {
        return cells;
    }

    private static String columns(String prefix, List<Column> columns) {
        StringBuilder sql = new StringBuilder();
        for (int i = 0; i < columns.size(); i++) {
            sql.append(", ")
                    .append(prefix)
                    .append(i)
                    .append(' ')
                    .append(columns.get(i).wire().base());
        }
        return sql.toString();
    }

    /** A staged column as the type of the table's column. */
    static String cast(String staged, Column column) {
        return column.wire().needsCast() ? staged + "::" + column.castType() : staged;
    }

    /** A column of the table as its staging type; binary fractions by their text, which loses no digit. */
    static String read(String qualified, Column column) {
        return switch (column.wire()) {
            case OTHER -> qualified + "::text";
            case FLOAT -> qualified + "::text::numeric";
            default -> qualified;
        };
    }

    /** What a staged value would be once it is stored, as the text that the database makes of it. */
    static String stored(String staged, Column column) {
        return "((" + staged + "::" + column.sqlType() + ")::text COLLATE \"C\")";
    }

    /** What is stored, as the text that the database makes of it. */
    static String text(String qualified) {
        return "(" + qualified + "::text COLLATE \"C\")";
    }

    /** Nothing is staged any more, though the transaction goes on. */
    void empty(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("TRUNCATE " + keysTable() + ", " + changesTable());
        }
    }

    /** Stages the keys of some rows, each with its number; the result is the number of the write. */
    int keys(RowBlock rows, int[] which) throws SQLException {
        int write = writes++;
        BinaryCopy copied = new BinaryCopy();
        for (int row : which) {
            copied.row(2 + keys.size());
            copied.int4(write);
            copied.int4(row);
            for (int field : cells.key()) {
                copied.cells(rows.data(), rows.at(row, field), rows.end(row, field));
            }
        }
        in(keysTable(), copied);
        return write;
    }

    /** Stages keys that belong to no rows, each with its place. */
    int keys(List<Object[]> values) throws SQLException {
        int write = writes++;
        BinaryCopy copied = new BinaryCopy();
        for (int n = 0; n < values.size(); n++) {
            copied.row(2 + keys.size());
            copied.int4(write);
            copied.int4(n);
            for (int part = 0; part < keys.size(); part++) {
                copied.value(values.get(n)[part], keys.get(part).wire().codec());
            }
        }
        in(keysTable(), copied);
        return write;
    }

    /** Stages the changes of some rows, each with its number; the result is the number of the write. */
    int changes(ChangeSet changes, int[] which) throws SQLException {
        int write = writes++;
        StagedChange changed = new StagedChange(ids.size(), fields.size());
        BinaryCopy copied = new BinaryCopy();
        for (int row : which) {
            changed.add(write, changes, row, copied);
        }
        in(changesTable(), copied);
        return write;
    }

    /** Sends rows to a table, in binary. */
    void in(String table, BinaryCopy rows) throws SQLException {
        rows.end();
        CopyIn in = copy.copyIn("COPY " + table + " FROM STDIN (FORMAT binary)");
        try {
            in.writeToCopy(rows.array(), 0, rows.size());
            in.endCopy();
        } finally {
            if (in.isActive()) {
                in.cancelCopy();
            }
        }
    }

    /** Takes a row of an answer: the bytes in which its cells lie, and where they begin. */
    @FunctionalInterface
    interface Answered {
        void take(byte[] bytes, int at);
    }

    /** The rows of a query that yields so many columns, one after the other; the result is how many there were. */
    int out(String query, int columns, Answered answered) throws SQLException {
        CopyOut out = copy.copyOut("COPY (" + query + ") TO STDOUT (FORMAT binary)");
        int rows = 0;
        RuntimeException failure = null;
        try {
            int start = BinaryCopy.HEADER;
            for (byte[] message = out.readFromCopy(); message != null; message = out.readFromCopy()) {
                boolean row =
                        message.length > start + 1 && (message[start] << 8 | message[start + 1] & 0xFF) == columns;
                // an answer that nobody can take is read to its end all the same, so that the connection stays good
                if (row && failure == null) {
                    try {
                        answered.take(message, start + Short.BYTES);
                    } catch (RuntimeException e) {
                        failure = e;
                    }
                    rows++;
                }
                start = 0;
            }
        } finally {
            if (out.isActive()) {
                out.cancelCopy();
            }
        }
        if (failure != null) {
            throw failure;
        }
        return rows;
    }

    /** The condition that a staged row {@code s} and a record {@code t} are the same record. */
    String sameRecord() {
        return sameRecord("s", "t");
    }

    /** @param staged the name of the staged change in the query */
    String sameRecord(String staged, String record) {
        return IntStream.range(0, ids.size())
                .mapToObj(i -> record + "." + Sql.name(ids.get(i).name()) + " = " + cast(staged + ".i" + i, ids.get(i)))
                .collect(Collectors.joining(" AND "));
    }

    String keysTable() {
        return "pg_temp." + keysTable;
    }

    String changesTable() {
        return "pg_temp." + changesTable;
    }

    List<Column> ids() {
        return ids;
    }

    List<Column> fields() {
        return fields;
    }

    List<Column> keys() {
        return keys;
    }
}
