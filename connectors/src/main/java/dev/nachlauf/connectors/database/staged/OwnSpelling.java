package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.value.Values;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;

/** Asks the database how it would spell values of columns with a spelling of their own: one question per column. */
final class OwnSpelling {
    private final DatabaseTable table;
    private final List<CellCodec> codecs;
    private final int[] respelled;

    OwnSpelling(DatabaseTable table) {
        this.table = table;
        this.codecs = table.staged().cells().fields();
        this.respelled =
                IntStream.range(0, codecs.size()).filter(table::respells).toArray();
    }

    RowBlock of(RowBlock rows, int[] which) throws SQLException {
        if (respelled.length == 0 || which.length == 0) {
            return rows;
        }
        Map<Integer, Map<String, Object>> spelled = new HashMap<>();
        for (int field : respelled) {
            spelled.put(field, asked(field, rows, which));
        }
        RowBlock.Builder own = new RowBlock.Builder(codecs.size(), rows.rows());
        for (int row = 0; row < rows.rows(); row++) {
            for (int field = 0; field < codecs.size(); field++) {
                add(rows, row, field, spelled.getOrDefault(field, Map.of()), own);
            }
        }
        return own.build();
    }

    /** A value that is refused has no spelling; writing its row tells why. */
    private Map<String, Object> asked(int field, RowBlock rows, int[] which) throws SQLException {
        Set<String> values = new LinkedHashSet<>();
        for (int row : which) {
            String value = Values.text(rows.value(row, field, codecs.get(field)));
            if (value != null) {
                values.add(value);
            }
        }
        Map<String, Object> spelled = new HashMap<>();
        if (!values.isEmpty()) {
            new Halves(table).of(List.copyOf(values), some -> spelled.putAll(table.spelled(field, some)));
        }
        return spelled;
    }

    private void add(RowBlock rows, int row, int field, Map<String, Object> spelled, RowBlock.Builder to) {
        Object sent = spelled.isEmpty() ? null : rows.value(row, field, codecs.get(field));
        Object own = sent == null ? null : spelled.get(Values.text(sent));
        if (own == null) {
            to.add(rows.data(), rows.at(row, field));
        } else {
            to.add(own, codecs.get(field));
        }
    }
}
