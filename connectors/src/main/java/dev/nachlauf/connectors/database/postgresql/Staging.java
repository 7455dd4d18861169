package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.TargetUse;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
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
    /** What is found of a batch is held until it is compared: as much as this share of the memory. */
    private static final long MOST_HELD = Runtime.getRuntime().maxMemory() / 8;

    static final int INSERT = 0;
    static final int UPDATE = 1;
    static final int DELETE = 2;

    private final CopyManager copy;
    private final String keysTable;
    private final String changesTable;
    private final List<Column> keys;
    private final List<Column> ids;
    private final List<Column> fields;
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
        ids = table.idColumns(use.key()).stream().map(table::column).toList();
        fields = use.fields().stream().map(table::column).toList();
        try (Statement statement = connection.createStatement()) {
            statement.execute("CREATE TEMP TABLE " + keysTable + " (w integer, n integer" + columns("k", keys)
                    + ") ON COMMIT DELETE ROWS");
            // mask: a character for each field, 1 where an update changes it
            statement.execute("CREATE TEMP TABLE " + changesTable
                    + " (w integer, n integer, kind smallint, mark xid, mask text"
                    + columns("i", ids) + columns("f", fields) + ") ON COMMIT DELETE ROWS");
        }
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

    /** Stages keys; the result is the number of the write. */
    int keys(List<Object[]> values) throws SQLException {
        int write = writes++;
        BinaryCopy rows = new BinaryCopy();
        for (int n = 0; n < values.size(); n++) {
            rows.row(2 + keys.size());
            rows.raw4(write);
            rows.raw4(n);
            for (int part = 0; part < keys.size(); part++) {
                rows.field(keys.get(part).wire(), values.get(n)[part]);
            }
        }
        in(keysTable(), rows);
        return write;
    }

    /** Stages the changes with these indices; the result is the number of the write. */
    int changes(List<Change> changes, List<Integer> indices) throws SQLException {
        int write = writes++;
        BinaryCopy rows = new BinaryCopy();
        for (int index : indices) {
            rows.row(5 + ids.size() + fields.size());
            rows.raw4(write);
            rows.raw4(index);
            switch (changes.get(index)) {
                case Change.Insert insert -> change(rows, INSERT, null, null, insert.id(), insert.after());
                case Change.Update update ->
                    change(rows, UPDATE, update.mark(), mask(update.changed()), update.id(), update.after());
                case Change.Delete delete ->
                    change(rows, DELETE, delete.mark(), null, delete.id(), new Object[fields.size()]);
            }
        }
        in(changesTable(), rows);
        return write;
    }

    /** The changed fields as a text of zeros and ones. */
    private String mask(BitSet changed) {
        StringBuilder mask = new StringBuilder(fields.size());
        for (int field = 0; field < fields.size(); field++) {
            mask.append(changed.get(field) ? '1' : '0');
        }
        return mask.toString();
    }

    private void change(
            BinaryCopy rows,
            int kind,
            @Nullable Object mark,
            @Nullable String mask,
            @Nullable Object id,
            @Nullable Object[] values) {
        rows.raw2(kind);
        if (mark instanceof Integer version) {
            rows.raw4(version);
        } else {
            rows.field(Wire.INT4, null);
        }
        rows.field(Wire.TEXT, mask);
        for (int i = 0; i < ids.size(); i++) {
            rows.field(ids.get(i).wire(), idPart(id, i));
        }
        for (int i = 0; i < fields.size(); i++) {
            rows.field(fields.get(i).wire(), values[i]);
        }
    }

    /** An id of several columns is a list. */
    static @Nullable Object idPart(@Nullable Object id, int part) {
        return id instanceof List<?> parts ? parts.get(part) : id;
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

    /** The rows of a query that yields so many columns. */
    List<BinaryRow> out(String query, int columns) throws SQLException {
        CopyOut out = copy.copyOut("COPY (" + query + ") TO STDOUT (FORMAT binary)");
        List<BinaryRow> rows = new ArrayList<>();
        long held = 0;
        try {
            boolean first = true;
            for (byte[] message = out.readFromCopy(); message != null; message = out.readFromCopy()) {
                held += message.length;
                int start = first ? BinaryCopy.HEADER : 0;
                first = false;
                boolean row =
                        message.length > start + 1 && (message[start] << 8 | message[start + 1] & 0xFF) == columns;
                if (held > MOST_HELD) {
                    // the answer is read to its end, so that the connection stays good, but not kept
                    rows.clear();
                } else if (row) {
                    rows.add(new BinaryRow(message, start + Short.BYTES, columns));
                }
            }
        } finally {
            if (out.isActive()) {
                out.cancelCopy();
            }
        }
        if (held > MOST_HELD) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.BATCH_TOO_LARGE,
                    "The stored records of one batch hold more than " + (MOST_HELD >> 20) + " MB.",
                    "Start the service with smaller batches (NACHLAUF_BATCH_ROWS) or more memory (NACHLAUF_HEAP),"
                            + " then start the job again."));
        }
        return rows;
    }

    /** The condition that a staged row {@code s} and a record {@code t} are the same record. */
    String sameRecord() {
        return IntStream.range(0, ids.size())
                .mapToObj(i -> "t." + Sql.name(ids.get(i).name()) + " = " + cast("s.i" + i, ids.get(i)))
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
