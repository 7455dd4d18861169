package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * How records are found by key: with an index, one look at it per key; without one, the whole table once for all keys.
 * What the planner thinks of a table that is empty, or was never analysed, must not lead it to read the table once for
 * each key, so the session tells it which way to go.
 */
final class KeySearch {
    /** For keys with an index; what a session for writing is set to anyway. */
    static final String BY_INDEX =
            "enable_seqscan = off; enable_hashjoin = off; enable_mergejoin = off; enable_nestloop = on";

    /** For questions that read the whole table once. */
    static final String BY_TABLE =
            "enable_seqscan = on; enable_hashjoin = on; enable_mergejoin = off; enable_nestloop = off";

    private static final String VERSION = "t.xmin";

    private final Table table;
    private final List<Column> keys;
    private final boolean indexed;

    KeySearch(Table table, List<Column> keys) {
        this.table = table;
        this.keys = keys;
        this.indexed = keys.stream().anyMatch(key -> table.leading().contains(key.name()));
    }

    /**
     * The question: the number of the key and the wanted expressions over {@code t}, for two records of each key at most.
     *
     * @param from the keys, called {@code k}, with their number {@code n} and their parts {@code k0}, {@code k1} …
     * @param where an additional condition over {@code k}; empty where there is none
     * @param cast whether the parts have to be cast to the types of the table's columns
     * @param order the columns by which the first record of a key is chosen; empty where that doesn't matter
     */
    String sql(String from, String where, boolean cast, List<String> wanted, List<String> order) {
        String match = match(cast);
        String columns = IntStream.range(0, wanted.size())
                .mapToObj(i -> wanted.get(i) + " AS v" + i)
                .collect(Collectors.joining(", "));
        String names =
                IntStream.range(0, wanted.size()).mapToObj(i -> "x.v" + i).collect(Collectors.joining(", "));
        String sorted = order.isEmpty() ? "" : " ORDER BY " + Sql.names("t.", order);
        if (indexed) {
            String version = table.mark().equals(VERSION) ? ", " + VERSION : "";
            // the inner question is planned by itself, so the order can't make it walk along another index
            return "SELECT k.n, x.* FROM " + from + " k CROSS JOIN LATERAL (SELECT " + columns
                    + " FROM (SELECT t.*" + version + " FROM "
                    + table.sqlName() + " t WHERE " + match + " OFFSET 0) t" + sorted + " LIMIT 2) x"
                    + (where.isEmpty() ? "" : " WHERE " + where);
        }
        return "SELECT x.n, " + names + " FROM (SELECT k.n, " + columns + ", row_number() OVER (PARTITION BY k.n"
                + sorted + ") AS place FROM " + from + " k JOIN " + table.sqlName() + " t ON " + match
                + (where.isEmpty() ? "" : " WHERE " + where) + ") x WHERE x.place <= 2";
    }

    /** Whether a record {@code t} has the key {@code k}. */
    String match(boolean cast) {
        return IntStream.range(0, keys.size())
                .mapToObj(i -> "t." + Sql.name(keys.get(i).name()) + " = "
                        + (cast ? "k.k" + i + "::" + keys.get(i).castType() : Staging.cast("k.k" + i, keys.get(i))))
                .collect(Collectors.joining(" AND "));
    }

    /** Sets the planner for the question, for the session or for the transaction. */
    void set(Connection connection, String scope) throws SQLException {
        set(connection, scope, indexed ? BY_INDEX : BY_TABLE);
    }

    /** Whether the question wants other settings than a session for writing has. */
    boolean differs() {
        return !indexed;
    }

    static void set(Connection connection, String scope, String settings) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(settings.lines()
                    .flatMap(line -> List.of(line.split(";")).stream())
                    .map(setting -> "SET " + scope + " " + setting.trim())
                    .collect(Collectors.joining("; ")));
        }
    }
}
