package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.record.RowBlock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * How records are found by any of the written fields: the table is read once for all rows. Every field by which it is
 * joined is hashed for each record, so it is joined by those few that tell the rows apart; the others are looked at where
 * these agree.
 */
final class AlikeSearch {
    /** So many rows show which fields tell them apart. */
    private static final int SAMPLE = 200;

    private final Table table;
    private final Staging staging;

    AlikeSearch(Table table, Staging staging) {
        this.table = table;
        this.staging = staging;
    }

    /**
     * The question: for each staged row its number, and the wanted expressions of one record that agrees with it.
     *
     * @param rows the values of the staged rows
     * @param which the rows that are staged
     * @param fields the places of the fields that have to agree
     */
    String sql(int write, RowBlock rows, int[] which, int[] fields, List<String> wanted) {
        List<Integer> joined = joined(rows, which, fields);
        String match = IntStream.of(fields)
                .mapToObj(field -> joined.contains(field) ? same(field) : agrees(field, !joined.isEmpty()))
                .collect(Collectors.joining(" AND "));
        return "SELECT DISTINCT ON (s.n) s.n, " + String.join(", ", wanted) + " FROM " + staging.changesTable()
                + " s JOIN " + table.sqlName() + " t ON " + match + " WHERE s.w = " + write + " ORDER BY s.n";
    }

    /** How many values the sampled rows have in a field. */
    private record Variety(int field, long values) {}

    /** The fields to join by: those with the most values, until a record agrees with hardly a row by chance. */
    private List<Integer> joined(RowBlock rows, int[] which, int[] fields) {
        int[] some = Arrays.copyOf(which, Math.min(which.length, SAMPLE));
        List<Variety> varieties = IntStream.of(fields)
                .filter(this::isJoinable)
                .mapToObj(field -> new Variety(field, values(rows, some, field)))
                .sorted(Comparator.comparingLong(Variety::values).reversed())
                .toList();
        List<Integer> joined = new ArrayList<>();
        double combinations = 1;
        for (Variety one : varieties) {
            if (joined.isEmpty() || combinations < (double) some.length * some.length) {
                joined.add(one.field);
                combinations *= one.values;
            }
        }
        return joined;
    }

    private static long values(RowBlock rows, int[] which, int field) {
        return IntStream.of(which)
                .map(row -> Arrays.hashCode(Arrays.copyOfRange(rows.data(), rows.at(row, field), rows.end(row, field))))
                .distinct()
                .count();
    }

    /** Whether records can be joined by a field as it is: it is always filled, and its type has a plain equality. */
    private boolean isJoinable(int field) {
        Column column = staging.fields().get(field);
        return column.wire().isExact() && !column.field().traits().mayBeCleared();
    }

    /** Only what can be hashed joins a table in one pass; beside a field that can, the others are looked at afterwards. */
    private String agrees(int field, boolean quick) {
        if (isJoinable(field)) {
            // hidden from the planner, which would hash it
            return "(" + same(field) + ") IS TRUE";
        }
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
