package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Asks the database how it would spell values that travel as text, and binary fractions: one question per column. */
final class OwnSpelling {
    private final Connection connection;
    private final List<Column> fields;
    private final boolean needed;

    OwnSpelling(Connection connection, List<Column> fields) {
        this.connection = connection;
        this.fields = fields;
        this.needed = fields.stream().anyMatch(field -> field.wire().needsCast());
    }

    RowBlock of(RowBlock rows, int[] which) throws SQLException {
        if (!needed || which.length == 0) {
            return rows;
        }
        List<Map<String, String>> spelled = fields.stream()
                .map(field -> (Map<String, String>) new HashMap<String, String>())
                .toList();
        for (int field = 0; field < fields.size(); field++) {
            if (fields.get(field).wire().needsCast()) {
                ask(field, rows, which, spelled.get(field));
            }
        }
        RowBlock.Builder respelled = new RowBlock.Builder(fields.size(), rows.rows());
        for (int row = 0; row < rows.rows(); row++) {
            for (int field = 0; field < fields.size(); field++) {
                add(rows, row, field, spelled.get(field), respelled);
            }
        }
        return respelled.build();
    }

    private void ask(int field, RowBlock rows, int[] which, Map<String, String> spelled) throws SQLException {
        CellCodec codec = fields.get(field).wire().codec();
        Set<String> values = new LinkedHashSet<>();
        for (int row : which) {
            String value = Values.text(rows.value(row, field, codec));
            if (value != null) {
                values.add(value);
            }
        }
        ask(fields.get(field), List.copyOf(values), spelled);
    }

    private void add(RowBlock rows, int row, int field, Map<String, String> spelled, RowBlock.Builder to) {
        Column column = fields.get(field);
        CellCodec codec = column.wire().codec();
        Object sent = spelled.isEmpty() ? null : rows.value(row, field, codec);
        String own = sent == null ? null : spelled.get(Values.text(sent));
        if (own == null) {
            to.add(rows.data(), rows.at(row, field));
        } else {
            to.add(value(column, own, sent), codec);
        }
    }

    private static @Nullable Object value(Column column, String own, @Nullable Object sent) {
        if (column.wire() == Wire.OTHER) {
            return own;
        }
        return ResultValues.number(own) instanceof BigDecimal number ? number : sent;
    }

    /** A value that is refused is found by halves and left out; writing the row tells why. */
    private void ask(Column column, List<String> values, Map<String, String> spelled) throws SQLException {
        if (values.isEmpty()) {
            return;
        }
        Savepoint before = connection.setSavepoint();
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT v, (v::" + column.castType() + ")::text FROM unnest(?::text[]) AS x(v)")) {
            statement.setArray(1, connection.createArrayOf("text", values.toArray()));
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    spelled.put(row.getString(1), row.getString(2));
                }
            }
            connection.releaseSavepoint(before);
        } catch (SQLException e) {
            if (Sql.isAboutServer(e)) {
                throw e;
            }
            connection.rollback(before);
            if (values.size() > 1) {
                int middle = values.size() / 2;
                ask(column, values.subList(0, middle), spelled);
                ask(column, values.subList(middle, values.size()), spelled);
            }
        }
    }
}
