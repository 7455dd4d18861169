package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A row as the table has stored it, given back by the statement that wrote it.
 *
 * @param id what identifies the record, a list where it has several parts
 * @param values the written fields
 */
record StoredRow(Object id, @Nullable Object[] values) {
    /** What has to be given back; the columns have a prefix before each. */
    static String columns(Staging staging, String prefix) {
        List<String> columns = new ArrayList<>();
        staging.ids().forEach(id -> columns.add(Staging.read(prefix + Sql.name(id.name()), id)));
        staging.fields().forEach(field -> columns.add(Staging.read(prefix + Sql.name(field.name()), field)));
        return String.join(", ", columns);
    }

    /** @param first where the columns begin in the answer */
    static StoredRow read(Staging staging, ResultSet row, int first) throws SQLException {
        List<@Nullable Object> ids = new ArrayList<>();
        int at = first;
        for (Column id : staging.ids()) {
            ids.add(ResultValues.read(row, at++, id.wire()));
        }
        @Nullable Object[] values = new Object[staging.fields().size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = ResultValues.read(row, at++, staging.fields().get(i).wire());
        }
        Object id = ids.size() == 1 ? Objects.requireNonNull(ids.getFirst()) : ids;
        return new StoredRow(id, values);
    }
}
