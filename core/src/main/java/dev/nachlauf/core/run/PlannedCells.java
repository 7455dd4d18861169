package dev.nachlauf.core.run;

import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.StoredRecord;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Spells planned records as the target of a write would hand them over. Each is lent until the next one is asked for. */
final class PlannedCells {
    private final Cells cells;
    private final List<String> fields;
    private final StoredRecord lent;

    /** @param fields the names of the write's fields */
    PlannedCells(Cells cells, List<String> fields) {
        this.cells = cells;
        this.fields = fields;
        this.lent = new StoredRecord(cells);
    }

    /** A stored record with planned values in the place of some. */
    StoredRecord over(StoredRecord stored, Map<String, @Nullable Object> values) {
        ByteSink out = new ByteSink(256);
        out.range(stored.data(), stored.markAt(), stored.fieldAt(0));
        for (int field = 0; field < fields.size(); field++) {
            if (values.containsKey(fields.get(field))) {
                cells.fields().get(field).write(values.get(fields.get(field)), out);
            } else {
                out.range(stored.data(), stored.fieldAt(field), stored.fieldAt(field + 1));
            }
        }
        return lent.over(out.toArray(), 0);
    }

    /** A record that is not there yet; what nobody planned is null. */
    StoredRecord added(@Nullable Object id, Map<String, @Nullable Object> values) {
        ByteSink out = new ByteSink(256);
        out.int4(CellCodec.NULL);
        for (int part = 0; part < cells.id().size(); part++) {
            cells.id().get(part).write(id instanceof List<?> parts ? parts.get(part) : id, out);
        }
        for (int field = 0; field < fields.size(); field++) {
            cells.fields().get(field).write(values.get(fields.get(field)), out);
        }
        return lent.over(out.toArray(), 0);
    }
}
