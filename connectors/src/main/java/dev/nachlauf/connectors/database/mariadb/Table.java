package dev.nachlauf.connectors.database.mariadb;

import dev.nachlauf.connectors.database.staged.StagedTable.Check;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What the catalogue says of a table.
 *
 * @param indexes the name of an index by its first column
 * @param triggers whether triggers may change what is written
 */
record Table(
        String database,
        RecordDescription description,
        List<Column> columns,
        List<Check> checks,
        Map<String, String> indexes,
        boolean triggers) {

    /**
     * A column.
     *
     * @param declared the type as it was declared, with character set and collation
     * @param ownEquality whether values that differ to us can be equal to the database
     * @param respells whether the database may spell a value otherwise than it was sent
     * @param defaultSql the expression that fills it; null where there is none
     * @param counted whether the table counts its values by itself
     */
    record Column(
            FieldDescription field,
            Wire wire,
            String declared,
            boolean ownEquality,
            boolean respells,
            @Nullable String defaultSql,
            boolean counted) {
        String name() {
            return field.name();
        }

        /** The type of the column in a staging table. */
        String staged() {
            return switch (wire) {
                case TRUTH -> "tinyint";
                case BYTES -> "longtext CHARACTER SET ascii";
                default -> declared;
            };
        }

        /** The column as it is read. */
        String read(String qualified) {
            return wire == Wire.BYTES ? "HEX(" + qualified + ")" : qualified;
        }

        /** A staged value as it is written. */
        String written(String staged) {
            return wire == Wire.BYTES ? "UNHEX(" + staged + ")" : staged;
        }
    }

    /** The quoted name. */
    String sqlName() {
        return Sql.name(database) + "." + Sql.name(description.name());
    }

    Column column(String name) {
        return columns.stream()
                .filter(column -> column.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("no column " + name));
    }

    /** The columns that identify a record: the primary key's, else the key's of the job. */
    List<String> idColumns(List<String> key) {
        return description.primaryKey().map(RecordDescription.UniqueKey::fields).orElse(key);
    }

    /** What a question by these columns begins with: where no index leads to their values, it is answered in one pass over the table. */
    String asking(List<String> by) {
        return byIndex(by).isEmpty() ? "SET STATEMENT join_cache_level = 4 FOR " : "";
    }

    /** Leads the database to an index over these columns; what it thinks of a table that grows meanwhile may be old. */
    String byIndex(List<String> by) {
        return by.stream()
                .map(indexes::get)
                .filter(Objects::nonNull)
                .findFirst()
                .map(index -> " FORCE INDEX FOR JOIN (" + Sql.name(index) + ")")
                .orElse("");
    }
}
