package dev.nachlauf.acceptance.torment;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A table as it is: the fields that the job writes, as text, by key. */
record Records(Map<String, Map<String, String>> byKey) {
    static final List<String> HUT = List.of("code", "name", "beds", "price", "opens", "valley", "note", "tag");
    static final List<String> NOTE = List.of("code", "note", "beds");

    static Records of(Place place, String table, List<String> fields) {
        Map<String, Map<String, String>> byKey = new HashMap<>();
        try (var connection = place.connect();
                var statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT * FROM " + table)) {
            List<String> there = columns(row);
            while (row.next()) {
                Map<String, String> values = new LinkedHashMap<>();
                for (String field : fields) {
                    if (there.contains(field)) {
                        values.put(field, row.getString(field));
                    }
                }
                byKey.put(row.getString("code"), values);
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
        return new Records(byKey);
    }

    private static List<String> columns(ResultSet row) throws SQLException {
        var columns = row.getMetaData();
        return java.util.stream.IntStream.rangeClosed(1, columns.getColumnCount())
                .mapToObj(i -> {
                    try {
                        return columns.getColumnName(i);
                    } catch (SQLException e) {
                        throw new IllegalStateException(e);
                    }
                })
                .toList();
    }
}
