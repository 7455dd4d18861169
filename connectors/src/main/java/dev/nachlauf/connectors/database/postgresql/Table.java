package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.staged.StagedTable.Check;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What the catalogue says of a table.
 *
 * @param cautions what speaks against the quickest way of writing
 * @param checks the table's check constraints
 * @param leading the first columns of its indexes, by which records can be found
 * @param idSequence the sequence behind the primary key, as a quoted name; empty where there is none that we may use
 */
record Table(
        String schema,
        RecordDescription description,
        Set<Caution> cautions,
        List<Column> columns,
        List<Check> checks,
        Optional<String> idSequence,
        Set<String> leading) {

    /**
     * A column.
     *
     * @param sqlType the type as SQL writes it
     * @param castType the type without length or precision, under a domain the type it stands on: a cast to it never cuts
     * @param ownEquality whether values that differ to us can be equal to the database: another spelling, another case
     * @param defaultSql the expression that fills it; null where there is none
     * @param alwaysIdentity whether only an overriding insert may give it a value
     */
    record Column(
            FieldDescription field,
            Wire wire,
            String sqlType,
            String castType,
            boolean ownEquality,
            @Nullable String defaultSql,
            boolean alwaysIdentity) {
        String name() {
            return field.name();
        }
    }

    /** The quoted name. */
    String sqlName() {
        return Sql.name(schema) + "." + Sql.name(description.name());
    }

    /** Whether code of the database may change or swallow what is written. */
    boolean rewritesRows() {
        return cautions.contains(Caution.BEFORE_TRIGGERS) || cautions.contains(Caution.REWRITE_RULES);
    }

    /** What changes whenever a record {@code t} does: its version, else a digest of all that it holds. */
    String mark() {
        return cautions.contains(Caution.NO_VERSIONS) ? "md5(t::text)" : "t.xmin";
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
}
