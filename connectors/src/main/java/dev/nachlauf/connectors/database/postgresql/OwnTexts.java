package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** How PostgreSQL spells values that travel as text, and binary fractions. */
final class OwnTexts {
    private final Connection connection;
    private final List<Column> fields;

    OwnTexts(Connection connection, List<Column> fields) {
        this.connection = connection;
        this.fields = fields;
    }

    Map<String, Object> of(int field, List<String> values) throws SQLException {
        Column column = fields.get(field);
        Map<String, Object> spelled = new HashMap<>();
        try (PreparedStatement statement = connection.prepareStatement(
                "SELECT v, (v::" + column.castType() + ")::text FROM unnest(?::text[]) AS x(v)")) {
            statement.setArray(1, connection.createArrayOf("text", values.toArray()));
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    put(column, row.getString(1), row.getString(2), spelled);
                }
            }
        }
        return spelled;
    }

    /** What is no number to us stays as it was sent. */
    private static void put(Column column, String sent, String own, Map<String, Object> spelled) {
        if (column.wire() == Wire.OTHER) {
            spelled.put(sent, own);
        } else if (ResultValues.number(own) instanceof BigDecimal number) {
            spelled.put(sent, number);
        }
    }
}
