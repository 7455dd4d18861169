package dev.nachlauf.connectors.database.postgresql;

import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Values of an ordinary result, as the kinds that COPY gives. */
final class ResultValues {
    private static final Set<String> SPECIAL = Set.of("NaN", "Infinity", "-Infinity");

    private ResultValues() {}

    static @Nullable Object read(ResultSet row, int column, Wire wire) throws SQLException {
        Object value = switch (wire) {
            case BOOL -> row.getBoolean(column);
            case INT2, INT4, INT8 -> row.getLong(column);
            case NUMERIC, FLOAT -> number(row.getString(column));
            case TEXT, OTHER -> row.getString(column);
            case DATE -> row.getObject(column, LocalDate.class);
            case TIME -> row.getObject(column, LocalTime.class);
            case TIMESTAMP -> row.getObject(column, LocalDateTime.class);
            case TIMESTAMPTZ -> {
                OffsetDateTime stamp = row.getObject(column, OffsetDateTime.class);
                yield stamp == null
                        ? null
                        : stamp.withOffsetSameInstant(ZoneOffset.UTC).toLocalDateTime();
            }
        };
        return row.wasNull() ? null : value;
    }

    /** Not a number and the infinities stay text. */
    static @Nullable Object number(@Nullable String text) {
        return text == null || SPECIAL.contains(text) ? text : new BigDecimal(text);
    }
}
