package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import dev.nachlauf.core.system.TargetUse;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The two temporary tables of a target: keys to look for, and changes to apply. Their columns are declared as those of the
 * table, so that they compare and spell as it does; a value that a column can't take is refused here already. They are no
 * part of transactions, and hold one write at a time; its rows carry its number.
 */
final class Staging {
    private final Connection connection;
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
        this.connection = connection;
        keysTable = "nachlauf_key_" + number;
        changesTable = "nachlauf_change_" + number;
        keys = use.key().stream().map(table::column).toList();
        ids = table.idColumns(use.identity()).stream().map(table::column).toList();
        fields = use.fields().stream().map(table::column).toList();
        cells = new Cells(
                codecs(fields), use.key().stream().map(use.fields()::indexOf).toList(), codecs(ids), CellCodec.TEXT);
        try (Statement statement = connection.createStatement()) {
            statement.execute(
                    "CREATE TEMPORARY TABLE " + keysTable + " (w int, n int" + declared("k", keys) + ")" + engine());
            // mask: a character for each field, 1 where an update changes it
            statement.execute("CREATE TEMPORARY TABLE " + changesTable
                    + " (w int, n int, kind tinyint, mark char(32) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin, mask text"
                    + declared("i", ids) + declared("f", fields) + ")" + engine());
        }
    }

    /** Quickly filled and emptied; slow where it has an index. */
    static String engine() {
        return " ENGINE=Aria TRANSACTIONAL=0";
    }

    private static List<CellCodec> codecs(List<Column> columns) {
        return columns.stream().map(column -> column.wire().codec()).toList();
    }

    static String declared(String prefix, List<Column> columns) {
        return IntStream.range(0, columns.size())
                .mapToObj(i -> ", " + prefix + i + " " + columns.get(i).staged() + " NULL DEFAULT NULL")
                .collect(Collectors.joining());
    }

    /** Stages the keys of some rows, each with its number; the result is the number of the write. */
    int keys(RowBlock rows, int[] which) throws SQLException {
        int write = writes++;
        try (PreparedStatement statement = inserting(keysTable, "w, n" + names("k", keys.size()))) {
            for (int row : which) {
                statement.setInt(1, write);
                statement.setInt(2, row);
                for (int part = 0; part < keys.size(); part++) {
                    Wire wire = keys.get(part).wire();
                    wire.bind(statement, part + 3, rows.value(row, cells.key().get(part), wire.codec()));
                }
                statement.addBatch();
            }
            statement.executeBatch();
        }
        return write;
    }

    /** Stages keys that belong to no rows, each with its place. */
    int keys(List<Object[]> values) throws SQLException {
        int write = writes++;
        try (PreparedStatement statement = inserting(keysTable, "w, n" + names("k", keys.size()))) {
            for (int n = 0; n < values.size(); n++) {
                statement.setInt(1, write);
                statement.setInt(2, n);
                for (int part = 0; part < keys.size(); part++) {
                    keys.get(part).wire().bind(statement, part + 3, values.get(n)[part]);
                }
                statement.addBatch();
            }
            statement.executeBatch();
        }
        return write;
    }

    /** Stages values of one field by their texts, each with its place. */
    int values(int field, List<String> texts) throws SQLException {
        int write = writes++;
        try (PreparedStatement statement = inserting(changesTable, "w, n, f" + field)) {
            for (int n = 0; n < texts.size(); n++) {
                statement.setInt(1, write);
                statement.setInt(2, n);
                statement.setString(3, texts.get(n));
                statement.addBatch();
            }
            statement.executeBatch();
        }
        return write;
    }

    /** Stages the changes of some rows, each with its number; the result is the number of the write. */
    int changes(ChangeSet changes, int[] which) throws SQLException {
        int write = writes++;
        String columns = "w, n, kind, mark, mask" + names("i", ids.size()) + names("f", fields.size());
        try (PreparedStatement statement = inserting(changesTable, columns)) {
            for (int row : which) {
                Kind kind = changes.kind(row);
                int at = 1;
                statement.setInt(at++, write);
                statement.setInt(at++, row);
                statement.setInt(at++, StagedTable.number(kind));
                text(statement, at++, mark(changes, row));
                text(statement, at++, kind == Kind.UPDATE ? mask(changes, row) : null);
                at = id(statement, at, changes, row);
                for (int field = 0; field < fields.size(); field++) {
                    Object value = kind == Kind.DELETE ? null : changes.after(row, field);
                    fields.get(field).wire().bind(statement, at++, value);
                }
                statement.addBatch();
            }
            statement.executeBatch();
        }
        return write;
    }

    private static void text(PreparedStatement statement, int at, @Nullable String text) throws SQLException {
        if (text == null) {
            statement.setNull(at, Types.VARCHAR);
        } else {
            statement.setString(at, text);
        }
    }

    private static @Nullable String mark(ChangeSet changes, int row) {
        return changes.markAt(row) < 0 ? null : (String) CellCodec.TEXT.read(changes.kept(), changes.markAt(row));
    }

    private String mask(ChangeSet changes, int row) {
        StringBuilder mask = new StringBuilder(fields.size());
        for (int field = 0; field < fields.size(); field++) {
            mask.append(changes.isChanged(row, field) ? '1' : '0');
        }
        return mask.toString();
    }

    private int id(PreparedStatement statement, int first, ChangeSet changes, int row) throws SQLException {
        int at = first;
        int cell = changes.idAt(row);
        for (Column id : ids) {
            id.wire().bind(statement, at++, cell < 0 ? null : id.wire().codec().read(changes.kept(), cell));
            cell = cell < 0 ? cell : CellCodec.end(changes.kept(), cell);
        }
        return at;
    }

    /** What was staged there before has been asked about. */
    private PreparedStatement inserting(String table, String columns) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("DELETE FROM " + table);
        }
        long parameters = columns.chars().filter(c -> c == ',').count();
        return connection.prepareStatement(
                "INSERT INTO " + table + " (" + columns + ") VALUES (?" + ", ?".repeat((int) parameters) + ")");
    }

    private static String names(String prefix, int count) {
        return IntStream.range(0, count).mapToObj(i -> ", " + prefix + i).collect(Collectors.joining());
    }

    /** The condition that a staged change and a record are the same record. */
    String sameRecord(String staged, String record) {
        return IntStream.range(0, ids.size())
                .mapToObj(i -> record + "." + Sql.name(ids.get(i).name()) + " = " + staged + ".i" + i)
                .collect(Collectors.joining(" AND "));
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

    String keysTable() {
        return keysTable;
    }

    String changesTable() {
        return changesTable;
    }

    List<Column> keys() {
        return keys;
    }

    List<Column> ids() {
        return ids;
    }

    List<Column> fields() {
        return fields;
    }
}
