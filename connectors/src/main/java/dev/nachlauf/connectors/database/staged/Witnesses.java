package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.BitSet;
import java.util.HashSet;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Records that bear witness of a batch whose end nobody saw: they are as it would have left them. */
public final class Witnesses {
    private final StagedTable table;
    private final int write;

    private Witnesses(StagedTable table, int write) {
        this.table = table;
        this.write = write;
    }

    /** How many records are as the changes would have left them, compared in the database's own words. */
    public static long of(StagedTable table, ChangeSet inDoubt) throws SQLException {
        int[] rows = IntStream.range(0, inDoubt.rows().rows()).toArray();
        return new Witnesses(table, table.stage(inDoubt, rows)).count(inDoubt, rows);
    }

    private long count(ChangeSet inDoubt, int[] rows) throws SQLException {
        BitSet all = new BitSet();
        all.set(0, table.fields().size());
        long found = 0;
        if (inDoubt.rows(Kind.INSERT, rows).length > 0) {
            found += count("s.kind = " + StagedTable.INSERT, all);
        }
        Set<BitSet> masks = new HashSet<>();
        for (int row : inDoubt.rows(Kind.UPDATE, rows)) {
            BitSet changed = inDoubt.changed(row);
            if (masks.add(changed)) {
                String mask = IntStream.range(0, table.fields().size())
                        .mapToObj(field -> changed.get(field) ? "1" : "0")
                        .collect(Collectors.joining());
                found += count("s.kind = " + StagedTable.UPDATE + " AND s.mask = '" + mask + "'", changed);
            }
        }
        long deletes = inDoubt.rows(Kind.DELETE, rows).length;
        if (deletes > 0) {
            found += deletes - count("s.kind = " + StagedTable.DELETE, new BitSet());
        }
        return found;
    }

    /** How many staged rows are met by a record of the same id with these values; those of a new record hold its key. */
    private long count(String which, BitSet fields) throws SQLException {
        String match = Stream.concat(
                        Stream.of(table.sameRecord("s", "t")), fields.stream().mapToObj(table::agrees))
                .collect(Collectors.joining(" AND "));
        String sql = "SELECT count(*) FROM " + table.changesTable() + " s JOIN " + table.sqlName() + " t ON " + match
                + " WHERE s.w = ? AND " + which;
        try (PreparedStatement statement = table.connection().prepareStatement(sql)) {
            statement.setInt(1, write);
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                return row.getLong(1);
            }
        }
    }
}
