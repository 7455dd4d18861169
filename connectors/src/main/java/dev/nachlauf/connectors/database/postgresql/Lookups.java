package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.system.LooksUp.Match;
import dev.nachlauf.core.value.Values;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** Finds records by key with one question for all keys; two hits are enough to know that there are several. */
final class Lookups {
    private Lookups() {}

    static List<Match> find(
            Connection connection, Table table, List<String> keyFields, List<String> wanted, List<Object[]> keys)
            throws SQLException {
        List<Column> by = keyFields.stream().map(table::column).toList();
        List<Column> fields = wanted.stream().map(table::column).toList();
        KeySearch search = new KeySearch(table, by);
        search.set(connection, "SESSION");
        List<Match> matches = new ArrayList<>(Collections.nCopies(keys.size(), Match.NONE));
        try (PreparedStatement statement = connection.prepareStatement(sql(search, table, keyFields, fields))) {
            for (int part = 0; part < by.size(); part++) {
                int index = part;
                Object[] column =
                        keys.stream().map(key -> Values.text(key[index])).toArray();
                statement.setArray(part + 1, connection.createArrayOf("text", column));
            }
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    int key = (int) row.getLong(1) - 1;
                    Match before = matches.get(key);
                    matches.set(
                            key,
                            before.count() == 0 ? new Match(1, values(row, fields)) : new Match(2, before.values()));
                }
            }
        }
        return matches;
    }

    static String sql(KeySearch search, Table table, List<String> keyFields, List<Column> fields) {
        String arrays = keyFields.stream().map(key -> "?::text[]").collect(Collectors.joining(", "));
        String names =
                IntStream.range(0, keyFields.size()).mapToObj(i -> "k" + i).collect(Collectors.joining(", "));
        List<String> values = fields.stream()
                .map(field -> Staging.read("t." + Sql.name(field.name()), field))
                .toList();
        String keys = "(SELECT * FROM unnest(" + arrays + ") WITH ORDINALITY AS u(" + names + ", n))";
        return search.sql(keys, "", true, values, table.idColumns(keyFields)) + " ORDER BY 1";
    }

    private static @Nullable Object[] values(ResultSet row, List<Column> fields) throws SQLException {
        @Nullable Object[] values = new Object[fields.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = ResultValues.read(row, i + 2, fields.get(i).wire());
        }
        return values;
    }
}
