package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.connectors.database.staged.RecordFinding;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target.Found;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Finds the records of a batch by the cheapest question that is sure to find them all. A table that was empty when the
 * run came to it is not asked, until it refuses a key; whoever inserts nothing would not hear of that, and asks. Where a file is in the order of its keys, one stretch of the index
 * holds them: it is read from the least key to the greatest, and only what was not met there is asked for key by key.
 */
final class RecordSearch implements RecordFinding {
    /** So few keys are not worth a stretch. */
    private static final int FEW = 100;
    /** A stretch may hold so many records for each key. */
    private static final int MOST_PER_KEY = 3;
    /** So many batches pass until a stretch is tried again after one that was too long. */
    private static final int PAUSE = 20;

    private static final int NUMBER_CELL = 2 * Integer.BYTES;

    private final Connection connection;
    private final Table table;
    private final Staging staging;
    private final KeySearch search;
    private final boolean inserts;
    private final boolean unique;
    private final boolean stretches;
    private final String wanted;
    private final StoredRecord record;
    private boolean asked;
    private boolean empty;
    private int pause;

    /** @param inserts whether keys that are not found are inserted, so that the table refuses one that is there */
    RecordSearch(Connection connection, Table table, Staging staging, boolean inserts) {
        this.inserts = inserts;
        this.connection = connection;
        this.table = table;
        this.staging = staging;
        this.search = new KeySearch(table, staging.keys());
        this.record = new StoredRecord(staging.cells());
        this.unique = table.description()
                .isUnique(staging.keys().stream().map(Column::name).toList());
        this.stretches = unique
                && table.leading().contains(staging.keys().getFirst().name())
                && staging.keys().stream().allMatch(key -> key.wire().isExact() && !key.ownEquality());
        this.wanted = String.join(", ", wanted());
    }

    /** What has to be asked of a record {@code t}. */
    List<String> wanted() {
        List<String> columns = new ArrayList<>(List.of(table.mark()));
        staging.ids().forEach(id -> columns.add(Staging.read("t." + Sql.name(id.name()), id)));
        staging.fields().forEach(field -> columns.add(Staging.read("t." + Sql.name(field.name()), field)));
        return columns;
    }

    /** The table refused a key, so somebody else writes to it too. */
    @Override
    public void expectOthers() {
        empty = false;
    }

    @Override
    public void find(RowBlock rows, int[] which, Found found) throws SQLException {
        if (which.length == 0 || findsNone()) {
            return;
        }
        pause = Math.max(0, pause - 1);
        if (stretches && pause == 0 && which.length > FEW) {
            KeyPlaces places = new KeyPlaces(
                    rows,
                    staging.cells().key(),
                    staging.keys().stream().map(key -> key.wire().codec()).toList(),
                    which);
            if (!places.isRepeated()) {
                BitSet met = new BitSet();
                stretch(rows, which.length, places, met, found);
                eachKey(rows, IntStream.of(which).filter(row -> !met.get(row)).toArray(), found);
                return;
            }
        }
        eachKey(rows, which, found);
    }

    /** Of rows that are hidden from us nothing is known, so such a table is always asked. */
    @Override
    public boolean findsNone() throws SQLException {
        if (!asked) {
            asked = true;
            boolean sure = inserts && unique && !table.cautions().contains(Caution.ROW_SECURITY);
            empty = sure && !exists();
        }
        return empty;
    }

    private boolean exists() throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT EXISTS (SELECT FROM " + table.sqlName() + ")")) {
            row.next();
            return row.getBoolean(1);
        }
    }

    private void stretch(RowBlock rows, int keys, KeyPlaces places, BitSet met, Found found) throws SQLException {
        int write = staging.keys(rows, new int[] {places.least(), places.greatest()});
        int most = keys * MOST_PER_KEY;
        String sql = "SELECT " + wanted + " FROM " + table.sqlName() + " t WHERE " + bound(">=", write, places.least())
                + " AND " + bound("<=", write, places.greatest()) + " LIMIT " + most;
        int width = 1 + staging.ids().size() + staging.fields().size();
        int records = staging.out(sql, width, (bytes, at) -> {
            int row = places.row(record.over(bytes, at));
            if (row >= 0) {
                met.set(row);
                found.take(row, record);
            }
        });
        if (records == most || met.cardinality() * MOST_PER_KEY < keys) {
            pause = PAUSE;
        }
    }

    /** A condition over the key's columns; the bound lies in the staging table, so no value becomes a part of the text. */
    private String bound(String operator, int write, int row) {
        List<Column> keys = staging.keys();
        String columns = keys.stream().map(key -> "t." + Sql.name(key.name())).collect(Collectors.joining(", "));
        String values = IntStream.range(0, keys.size())
                .mapToObj(part -> "(SELECT " + Staging.cast("k.k" + part, keys.get(part)) + " FROM "
                        + staging.keysTable() + " k WHERE k.w = " + write + " AND k.n = " + row + ")")
                .collect(Collectors.joining(", "));
        return keys.size() == 1
                ? columns + " " + operator + " " + values
                : "(" + columns + ") " + operator + " (" + values + ")";
    }

    private void eachKey(RowBlock rows, int[] which, Found found) throws SQLException {
        if (which.length == 0) {
            return;
        }
        int write = staging.keys(rows, which);
        String sql = search.sql(staging.keysTable(), "k.w = " + write, false, wanted(), List.of());
        if (search.differs()) {
            search.set(connection, "LOCAL");
        }
        int width = 2 + staging.ids().size() + staging.fields().size();
        staging.out(sql, width, (bytes, at) -> found.take(number(bytes, at), record.over(bytes, at + NUMBER_CELL)));
        if (search.differs()) {
            KeySearch.set(connection, "LOCAL", KeySearch.BY_INDEX);
        }
    }

    @Override
    public void alike(ChangeSet changes, int[] which, int[] fields, Found found) throws SQLException {
        String sql = new AlikeSearch(table, staging)
                .sql(staging.changes(changes, which), changes.rows(), which, fields, wanted());
        KeySearch.set(connection, "LOCAL", KeySearch.BY_TABLE);
        int width = 2 + staging.ids().size() + staging.fields().size();
        staging.out(sql, width, (bytes, at) -> found.take(number(bytes, at), record.over(bytes, at + NUMBER_CELL)));
        KeySearch.set(connection, "LOCAL", KeySearch.BY_INDEX);
    }

    /** Hands over every record of the table. */
    @Override
    public void list(Consumer<StoredRecord> to) throws SQLException {
        list("SELECT " + wanted + " FROM " + table.sqlName() + " t", to);
    }

    /** Hands over every record that has the key of one of some rows. */
    @Override
    public void list(RowBlock rows, int[] which, Consumer<StoredRecord> to) throws SQLException {
        if (which.length == 0) {
            return;
        }
        int write = staging.keys(rows, which);
        search.set(connection, "LOCAL");
        list(
                "SELECT " + wanted + " FROM " + staging.keysTable() + " k JOIN " + table.sqlName() + " t ON "
                        + search.match(false) + " WHERE k.w = " + write,
                to);
        KeySearch.set(connection, "LOCAL", KeySearch.BY_INDEX);
    }

    private void list(String sql, Consumer<StoredRecord> to) throws SQLException {
        int width = 1 + staging.ids().size() + staging.fields().size();
        staging.out(sql, width, (bytes, at) -> to.accept(record.over(bytes, at)));
    }

    /** The number of the row for which a record was found stands before it. */
    private static int number(byte[] bytes, int at) {
        return CellCodec.length(bytes, at + Integer.BYTES);
    }
}
