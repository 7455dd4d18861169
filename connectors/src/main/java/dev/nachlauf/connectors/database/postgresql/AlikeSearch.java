package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** How records are found by any of the written fields: the table is read once for all rows. */
final class AlikeSearch {
    private final Table table;
    private final Staging staging;

    AlikeSearch(Table table, Staging staging) {
        this.table = table;
        this.staging = staging;
    }

    /**
     * The question: for each staged row its number, and the wanted expressions of one record that agrees with it.
     *
     * @param fields the places of the fields that have to agree
     */
    String sql(int write, int[] fields, List<String> wanted) {
        boolean quick = IntStream.of(fields).anyMatch(this::isJoined);
        String match = IntStream.of(fields)
                .mapToObj(field -> isJoined(field) ? same(field) : agrees(field, quick))
                .collect(Collectors.joining(" AND "));
        return "SELECT DISTINCT ON (s.n) s.n, " + String.join(", ", wanted) + " FROM " + staging.changesTable()
                + " s JOIN " + table.sqlName() + " t ON " + match + " WHERE s.w = " + write + " ORDER BY s.n";
    }

    /** Whether records can be joined by a field as it is: it is always filled, and its type has a plain equality. */
    private boolean isJoined(int field) {
        Column column = staging.fields().get(field);
        return column.wire().isExact() && !column.field().traits().mayBeCleared();
    }

    /** Only what can be hashed joins a table in one pass; beside a field that can, the others are looked at afterwards. */
    private String agrees(int field, boolean quick) {
        Column column = staging.fields().get(field);
        String stored = Staging.text("t." + Sql.name(column.name()));
        String staged = Staging.stored("s.f" + field, column);
        return quick
                ? stored + " IS NOT DISTINCT FROM " + staged
                : "coalesce(" + stored + ", '') = coalesce(" + staged + ", '')";
    }

    private String same(int field) {
        Column column = staging.fields().get(field);
        return "t." + Sql.name(column.name()) + " = " + Staging.cast("s.f" + field, column);
    }
}
