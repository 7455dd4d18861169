package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.connectors.database.staged.RecordFinding;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target.Found;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Finds records: by the keys of a batch, which are staged beside them, or all. */
final class RecordSearch implements RecordFinding {
    /** How many records are fetched at once where all are wanted. */
    private static final int FETCHED = 2_000;

    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final MariadbDialect dialect;
    private final AlikeSearch alike;
    private final boolean unique;
    private final ByteSink cells = new ByteSink(1 << 10);
    private final StoredRecord record;

    /** @param number tells the temporary tables of several tables over one connection apart */
    RecordSearch(Connection connection, Table table, Staging staging, MariadbDialect dialect, int number) {
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.dialect = dialect;
        this.unique = table.description()
                .isUnique(staging.keys().stream().map(Column::name).toList());
        this.alike = new AlikeSearch(connection, table, staging, number);
        this.record = new StoredRecord(staging.cells());
    }

    /** What has to be asked of a record {@code t}: its mark, its id, its fields. */
    String wanted() {
        List<String> columns = new ArrayList<>(List.of(mark()));
        staging.ids().forEach(id -> columns.add(id.read("t." + Sql.name(id.name()))));
        staging.fields().forEach(field -> columns.add(field.read("t." + Sql.name(field.name()))));
        return IntStream.range(0, columns.size())
                .mapToObj(i -> columns.get(i) + " AS v" + i)
                .collect(Collectors.joining(", "));
    }

    /** Records have no version here, so a digest of all their values stands for it. */
    String mark() {
        return digest("t", table.columns());
    }

    /** A digest of values: as bytes, for their collations don't mix, and quoted, so that none passes for two. */
    static String digest(String of, List<Column> columns) {
        return "MD5(CONCAT_WS(','"
                + columns.stream()
                        .map(column -> ", QUOTE(BINARY " + of + "." + Sql.name(column.name()) + ")")
                        .collect(Collectors.joining())
                + "))";
    }

    /** A key that its column can't take is no record's. */
    @Override
    public void find(RowBlock rows, int[] which, Found found) throws SQLException {
        if (which.length == 0) {
            return;
        }
        int write;
        try {
            write = staging.keys(rows, which);
        } catch (SQLException e) {
            if (dialect.isAboutServer(e)) {
                throw e;
            }
            if (which.length > 1) {
                int middle = which.length / 2;
                find(rows, Arrays.copyOf(which, middle), found);
                find(rows, Arrays.copyOfRange(which, middle, which.length), found);
            }
            return;
        }
        each(byKey(unique ? "" : ", ROW_NUMBER() OVER (PARTITION BY k.n) AS place", !unique), write, found);
    }

    private String byKey(String place, boolean two) {
        List<String> key = staging.keys().stream().map(Column::name).toList();
        String sql = "SELECT k.n, " + wanted() + place + " FROM " + staging.keysTable() + " k STRAIGHT_JOIN "
                + table.sqlName() + " t" + table.byIndex(key) + " ON " + match() + " WHERE k.w = ?";
        return table.asking(key) + (two ? "SELECT * FROM (" + sql + ") x WHERE x.place <= 2" : sql);
    }

    private String match() {
        return IntStream.range(0, staging.keys().size())
                .mapToObj(i -> "t." + Sql.name(staging.keys().get(i).name()) + " = k.k" + i)
                .collect(Collectors.joining(" AND "));
    }

    /** Hands over what a question finds, whose first column is the number of a row and whose parameter is a write. */
    void each(String sql, int write, Found found) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    found.take(row.getInt(1), record(row, 2));
                }
            }
        }
    }

    /** Hands over every record of the table. */
    @Override
    public void list(Consumer<StoredRecord> to) throws SQLException {
        try (PreparedStatement statement =
                connection.prepareStatement("SELECT " + wanted() + " FROM " + table.sqlName() + " t")) {
            list(statement, 1, to);
        }
    }

    /** Hands over every record that has the key of one of some rows. */
    @Override
    public void list(RowBlock rows, int[] which, Consumer<StoredRecord> to) throws SQLException {
        if (which.length == 0) {
            return;
        }
        int write = staging.keys(rows, which);
        try (PreparedStatement statement = connection.prepareStatement(byKey("", false))) {
            statement.setInt(1, write);
            list(statement, 2, to);
        }
    }

    @Override
    public void alike(ChangeSet changes, int[] which, int[] fields, Found found) throws SQLException {
        alike.find(this, staging.changes(changes, which), fields, found);
    }

    private void list(PreparedStatement statement, int first, Consumer<StoredRecord> to) throws SQLException {
        statement.setFetchSize(FETCHED);
        try (ResultSet row = statement.executeQuery()) {
            while (row.next()) {
                to.accept(record(row, first));
            }
        }
    }

    private StoredRecord record(ResultSet row, int first) throws SQLException {
        int column = first;
        cells.clear();
        staging.cells().mark().write(row.getString(column++), cells);
        for (Column id : staging.ids()) {
            id.wire().codec().write(id.wire().read(row, column++), cells);
        }
        for (Column field : staging.fields()) {
            field.wire().codec().write(field.wire().read(row, column++), cells);
        }
        return record.over(cells.array(), 0);
    }
}
