package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.value.Kind;
import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** How the values of a column travel. */
enum Wire {
    TRUTH(Kind.BOOLEAN, CellCodec.TRUTH, Types.TINYINT),
    INTEGER(Kind.INTEGER, CellCodec.INT8, Types.BIGINT),
    DECIMAL(Kind.DECIMAL, CellCodec.DECIMAL, Types.DECIMAL),
    /** Binary fractions travel as exact numbers. */
    FLOAT(Kind.DECIMAL, CellCodec.DECIMAL, Types.DECIMAL),
    DATE(Kind.DATE, CellCodec.DATE, Types.DATE),
    TIME(Kind.TIME, CellCodec.TIME, Types.TIME),
    TIMESTAMP(Kind.TIMESTAMP, CellCodec.TIMESTAMP, Types.TIMESTAMP),
    TEXT(Kind.TEXT, CellCodec.TEXT, Types.VARCHAR),
    /** Bytes are shown by their hexadecimal digits, and not written. */
    BYTES(Kind.TEXT, CellCodec.TEXT, Types.VARCHAR);

    private final Kind kind;
    private final CellCodec codec;
    private final int sqlType;

    Wire(Kind kind, CellCodec codec, int sqlType) {
        this.kind = kind;
        this.codec = codec;
        this.sqlType = sqlType;
    }

    Kind kind() {
        return kind;
    }

    CellCodec codec() {
        return codec;
    }

    /**
     * By the catalogue.
     *
     * @param dataType the name of the type, such as {@code tinyint}
     * @param columnType the type as it was declared, such as {@code tinyint(1)}
     */
    static Wire of(String dataType, String columnType) {
        return switch (dataType.toLowerCase(Locale.ROOT)) {
            case "tinyint" -> columnType.equals("tinyint(1)") ? TRUTH : INTEGER;
            case "bit" -> columnType.equals("bit(1)") ? TRUTH : BYTES;
            case "smallint", "mediumint", "int", "year" -> INTEGER;
            // what is unsigned can be larger than our integers
            case "bigint" -> columnType.contains("unsigned") ? DECIMAL : INTEGER;
            case "decimal" -> DECIMAL;
            case "float", "double" -> FLOAT;
            case "date" -> DATE;
            case "time" -> TIME;
            case "datetime", "timestamp" -> TIMESTAMP;
            case "binary",
                    "varbinary",
                    "tinyblob",
                    "blob",
                    "mediumblob",
                    "longblob",
                    "geometry",
                    "point",
                    "linestring",
                    "polygon",
                    "multipoint",
                    "multilinestring",
                    "multipolygon",
                    "geometrycollection" -> BYTES;
            default -> TEXT;
        };
    }

    /** A value of an answer. */
    @Nullable
    Object read(ResultSet row, int column) throws SQLException {
        Object value = switch (this) {
            case TRUTH -> row.getInt(column) != 0;
            case INTEGER -> row.getLong(column);
            case DECIMAL, FLOAT -> number(row.getString(column));
            case DATE -> row.getObject(column, LocalDate.class);
            case TIME -> row.getObject(column, LocalTime.class);
            case TIMESTAMP -> row.getObject(column, LocalDateTime.class);
            case TEXT, BYTES -> row.getString(column);
        };
        return row.wasNull() ? null : value;
    }

    private static @Nullable Object number(@Nullable String text) {
        return text == null ? null : new BigDecimal(text);
    }

    /** Binds a value to a parameter. */
    void bind(PreparedStatement statement, int parameter, @Nullable Object value) throws SQLException {
        switch (value) {
            case null -> statement.setNull(parameter, sqlType);
            case Boolean truth -> statement.setInt(parameter, truth ? 1 : 0);
            case Long number -> statement.setLong(parameter, number);
            case BigDecimal number -> statement.setBigDecimal(parameter, number);
            default -> statement.setObject(parameter, value);
        }
    }
}
