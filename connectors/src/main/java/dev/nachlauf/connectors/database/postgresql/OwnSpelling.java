package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
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

    List<@Nullable Object[]> of(List<@Nullable Object[]> rows) throws SQLException {
        if (!needed || rows.isEmpty()) {
            return rows;
        }
        List<@Nullable Object[]> respelled = new ArrayList<>(rows.size());
        rows.forEach(row -> respelled.add(row.clone()));
        for (int field = 0; field < fields.size(); field++) {
            if (fields.get(field).wire().needsCast()) {
                respell(respelled, field);
            }
        }
        return respelled;
    }

    private void respell(List<@Nullable Object[]> rows, int field) throws SQLException {
        Column column = fields.get(field);
        Set<String> values = new LinkedHashSet<>();
        for (@Nullable Object[] row : rows) {
            if (row[field] != null) {
                values.add(Values.text(row[field]));
            }
        }
        Map<String, String> spelled = new HashMap<>();
        ask(column, List.copyOf(values), spelled);
        for (@Nullable Object[] row : rows) {
            String own = row[field] == null ? null : spelled.get(Values.text(row[field]));
            if (own != null) {
                row[field] = value(column, own, row[field]);
            }
        }
    }

    private static @Nullable Object value(Column column, String own, @Nullable Object sent) {
        if (column.wire() == Wire.OTHER) {
            return own;
        }
        return BinaryCopy.SPECIAL.contains(own) ? sent : (Object) new BigDecimal(own);
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
