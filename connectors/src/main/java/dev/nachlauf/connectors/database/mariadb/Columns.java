package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.mariadb.Table.Column;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FieldTraits;
import dev.nachlauf.core.system.FieldTraits.OnCreate;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** What the catalogue's line about a column means. */
final class Columns {
    private static final int MICROSECONDS = 6;
    private static final int BIGGEST_DIGITS = 20;
    private static final Pattern LABEL = Pattern.compile("'((?:[^']|'')*)'");

    private Columns() {}

    static Column of(ResultSet row) throws SQLException {
        String dataType = row.getString("data_type").toLowerCase(Locale.ROOT);
        String columnType = row.getString("column_type");
        Wire wire = Wire.of(dataType, columnType);
        boolean nullable = row.getString("is_nullable").equals("YES");
        String defaultSql = row.getString("column_default");
        boolean counted = row.getString("extra").contains("auto_increment");
        boolean computed = row.getString("is_generated").equals("ALWAYS");
        String privileges = row.getString("privileges");
        boolean permitted = privileges.contains("insert") && privileges.contains("update");
        boolean filledIn = defaultSql != null && !defaultSql.equals("NULL") || counted || computed;
        FieldDescription field = new FieldDescription(
                row.getString("column_name"),
                wire.kind(),
                columnType,
                wire == Wire.TEXT ? integer(row, "character_maximum_length") : OptionalInt.empty(),
                wire != Wire.DECIMAL
                        ? OptionalInt.empty()
                        : dataType.equals("bigint")
                                ? OptionalInt.of(BIGGEST_DIGITS)
                                : integer(row, "numeric_precision"),
                wire == Wire.DECIMAL ? integer(row, "numeric_scale") : OptionalInt.empty(),
                columnType.contains("unsigned") ? OptionalInt.empty() : bytes(dataType),
                new FieldTraits(
                        filledIn ? OnCreate.FILLED : nullable ? OnCreate.FREE : OnCreate.REQUIRED,
                        true,
                        nullable,
                        closed(computed, permitted, wire)),
                dataType.equals("enum") ? labels(columnType) : List.of(),
                false);
        String collation = row.getString("collation_name");
        return new Column(
                field,
                wire,
                declared(columnType, row.getString("character_set_name"), collation),
                collation != null && !collation.endsWith("_nopad_bin"),
                respells(dataType, row),
                defaultSql,
                counted);
    }

    private static String closed(boolean computed, boolean permitted, Wire wire) {
        if (computed) {
            return "the database computes it";
        }
        if (!permitted) {
            return "the account has no right to write it";
        }
        return wire == Wire.BYTES ? "it holds bytes" : "";
    }

    private static OptionalInt integer(ResultSet row, String column) throws SQLException {
        long number = row.getLong(column);
        return row.wasNull() || number > Integer.MAX_VALUE ? OptionalInt.empty() : OptionalInt.of((int) number);
    }

    private static OptionalInt bytes(String dataType) {
        return switch (dataType) {
            case "tinyint" -> OptionalInt.of(Byte.BYTES);
            case "smallint" -> OptionalInt.of(Short.BYTES);
            case "mediumint" -> OptionalInt.of(Short.BYTES + Byte.BYTES);
            case "int" -> OptionalInt.of(Integer.BYTES);
            default -> OptionalInt.empty();
        };
    }

    private static String declared(String columnType, @Nullable String characters, @Nullable String collation) {
        return characters == null || collation == null
                ? columnType
                : columnType + " CHARACTER SET " + characters + " COLLATE " + collation;
    }

    /** Fractions, labels in another case, blanks at the end of fixed texts, and digits of a second that don't fit. */
    private static boolean respells(String dataType, ResultSet row) throws SQLException {
        return switch (dataType) {
            case "float", "double", "enum", "set", "char", "year", "uuid", "inet4", "inet6" -> true;
            case "time", "datetime", "timestamp" -> row.getInt("datetime_precision") < MICROSECONDS;
            default -> false;
        };
    }

    private static List<String> labels(String columnType) {
        List<String> labels = new ArrayList<>();
        Matcher label = LABEL.matcher(columnType);
        while (label.find()) {
            labels.add(label.group(1).replace("''", "'"));
        }
        return labels;
    }
}
