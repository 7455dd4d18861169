package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FieldTraits;
import dev.nachlauf.core.system.FieldTraits.OnCreate;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;

/** What the catalogue's line about a column means. */
final class Columns {
    /** Lengths and precisions are kept in a type's modifier behind this many bytes. */
    private static final int MODIFIER_OFFSET = 4;

    private Columns() {}

    static Column of(ResultSet row) throws SQLException {
        String sqlType = row.getString(2);
        String typeName = row.getString(3);
        Wire wire = Wire.of(typeName);
        int modifier = row.getInt(4);
        boolean notNull = row.getBoolean(5);
        String defaultSql = row.getString(6);
        String identity = row.getString(7);
        boolean computed = !row.getString(8).isEmpty() || !row.getBoolean(14);
        boolean permitted = row.getBoolean(9);
        boolean sized = modifier >= MODIFIER_OFFSET && !row.getBoolean(11);
        boolean text = typeName.equals("varchar") || typeName.equals("bpchar");
        boolean number = typeName.equals("numeric") && sized;
        boolean filledIn = defaultSql != null || !identity.isEmpty() || computed;
        FieldDescription field = new FieldDescription(
                row.getString(1),
                wire.kind(),
                sqlType,
                sized && text ? OptionalInt.of(modifier - MODIFIER_OFFSET) : OptionalInt.empty(),
                number ? OptionalInt.of(((modifier - MODIFIER_OFFSET) >> 16) & 0xFFFF) : OptionalInt.empty(),
                number ? OptionalInt.of((modifier - MODIFIER_OFFSET) & 0x7FF) : OptionalInt.empty(),
                switch (wire) {
                    case INT2 -> OptionalInt.of(Short.BYTES);
                    case INT4 -> OptionalInt.of(Integer.BYTES);
                    default -> OptionalInt.empty();
                },
                new FieldTraits(
                        filledIn ? OnCreate.FILLED : notNull ? OnCreate.REQUIRED : OnCreate.FREE,
                        true,
                        !notNull,
                        computed
                                ? "the database computes it"
                                : permitted ? "" : "the account has no right to write it"),
                labels(row.getArray(10)),
                false);
        boolean ownEquality = wire.needsCast() || !row.getBoolean(13);
        return new Column(field, wire, sqlType, row.getString(12), ownEquality, defaultSql, identity.equals("a"));
    }

    /** The texts of an array; none where there is no array. */
    static List<String> labels(@Nullable Array array) throws SQLException {
        return array == null
                ? List.of()
                : Arrays.stream((Object[]) array.getArray())
                        .map(String::valueOf)
                        .toList();
    }
}
