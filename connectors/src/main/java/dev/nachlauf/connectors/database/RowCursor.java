package dev.nachlauf.connectors.database;

import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.value.Kind;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** The rows of a query, some at a time. Closing it ends the transaction and the connection. */
public final class RowCursor implements RecordCursor {
    /** How many rows are fetched at once. */
    private static final int FETCHED = 2_000;
    /** A whole number of so many digits fits into 64 bits. */
    private static final int CERTAINLY_WHOLE = 18;

    private final Connection connection;
    private final PreparedStatement statement;
    private final ResultSet rows;
    private final Function<SQLException, RuntimeException> failure;
    private final List<Field> fields = new ArrayList<>();
    private final int[] types;

    private RowCursor(
            Connection connection,
            PreparedStatement statement,
            ResultSet rows,
            Function<SQLException, RuntimeException> failure)
            throws SQLException {
        this.connection = connection;
        this.statement = statement;
        this.rows = rows;
        this.failure = failure;
        ResultSetMetaData columns = rows.getMetaData();
        this.types = new int[columns.getColumnCount()];
        Set<String> names = new HashSet<>();
        for (int i = 0; i < types.length; i++) {
            types[i] = type(columns, i + 1);
            String name = columns.getColumnLabel(i + 1);
            String free = name;
            for (int n = 2; !names.add(free); n++) {
                free = name + " (" + n + ")";
            }
            fields.add(new Field(free, kind(types[i])));
        }
    }

    /**
     * Asks.
     *
     * @param connection in a read-only transaction; the cursor closes it, also where asking fails
     * @param parameters values by name
     * @param failure what an error of the database means
     */
    public static RowCursor open(
            Connection connection,
            QueryText query,
            Map<String, @Nullable Object> parameters,
            Function<SQLException, RuntimeException> failure) {
        try {
            PreparedStatement statement = connection.prepareStatement(query.sql());
            statement.setFetchSize(FETCHED);
            for (int i = 0; i < query.names().size(); i++) {
                statement.setObject(i + 1, parameters.get(query.names().get(i)));
            }
            return new RowCursor(connection, statement, statement.executeQuery(), failure);
        } catch (SQLException e) {
            try {
                connection.close();
            } catch (SQLException again) {
                e.addSuppressed(again);
            }
            throw failure.apply(e);
        }
    }

    private static int type(ResultSetMetaData columns, int column) throws SQLException {
        String name = columns.getColumnTypeName(column).toLowerCase(Locale.ROOT);
        return name.equals("timestamptz") ? Types.TIMESTAMP_WITH_TIMEZONE : columns.getColumnType(column);
    }

    private static Kind kind(int type) {
        return switch (type) {
            case Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT -> Kind.INTEGER;
            case Types.NUMERIC, Types.DECIMAL, Types.REAL, Types.FLOAT, Types.DOUBLE -> Kind.DECIMAL;
            case Types.BOOLEAN, Types.BIT -> Kind.BOOLEAN;
            case Types.DATE -> Kind.DATE;
            case Types.TIME -> Kind.TIME;
            case Types.TIMESTAMP, Types.TIMESTAMP_WITH_TIMEZONE -> Kind.TIMESTAMP;
            default -> Kind.TEXT;
        };
    }

    @Override
    public List<Field> fields() {
        return fields;
    }

    @Override
    public @Nullable Object @Nullable [] next() {
        try {
            if (!rows.next()) {
                return null;
            }
            @Nullable Object[] record = new Object[types.length];
            for (int i = 0; i < types.length; i++) {
                record[i] = value(i + 1);
            }
            return record;
        } catch (SQLException e) {
            throw failure.apply(e);
        }
    }

    private @Nullable Object value(int column) throws SQLException {
        return switch (fields.get(column - 1).kind()) {
            case INTEGER -> whole(rows.getString(column));
            case DECIMAL -> decimal(rows.getString(column));
            case BOOLEAN -> {
                boolean truth = rows.getBoolean(column);
                yield rows.wasNull() ? null : (Object) truth;
            }
            case DATE -> rows.getObject(column, LocalDate.class);
            case TIME -> rows.getObject(column, LocalTime.class);
            case TIMESTAMP -> moment(column);
            case TEXT -> rows.getString(column);
        };
    }

    private static @Nullable Object whole(@Nullable String text) {
        if (text == null) {
            return null;
        }
        if (text.length() <= CERTAINLY_WHOLE) {
            return Long.valueOf(text);
        }
        BigDecimal number = new BigDecimal(text);
        // beyond 64 bits, as unsigned columns can be
        return number.equals(BigDecimal.valueOf(number.longValue())) ? (Object) number.longValue() : number;
    }

    /** Infinity and not-a-number stay text: no field of ours can hold them, and a row that needs them is rejected. */
    private static @Nullable Object decimal(@Nullable String text) {
        if (text == null) {
            return null;
        }
        try {
            return new BigDecimal(text);
        } catch (NumberFormatException e) {
            return text;
        }
    }

    private @Nullable Object moment(int column) throws SQLException {
        if (types[column - 1] == Types.TIMESTAMP_WITH_TIMEZONE) {
            OffsetDateTime stamp = rows.getObject(column, OffsetDateTime.class);
            return stamp == null
                    ? null
                    : stamp.withOffsetSameInstant(ZoneOffset.UTC).toLocalDateTime();
        }
        return rows.getObject(column, LocalDateTime.class);
    }

    @Override
    public void close() {
        try (connection;
                statement) {
            rows.close();
        } catch (SQLException e) {
            // nothing was changed, so nothing is lost
        }
    }
}
