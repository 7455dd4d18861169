package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.postgresql.Table.Column;
import dev.nachlauf.core.system.Target.Stored;
import dev.nachlauf.core.system.Target.StoredRecord;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What was found for a batch of keys. Rows hold: index of the key, version mark, id columns, fields. */
final class Matches implements Stored {
    private static final int MARK = 1;
    private static final int FIRST_ID = 2;

    private final List<Column> ids;
    private final List<Column> fields;
    private final @Nullable BinaryRow[] first;
    private final boolean[] several;

    Matches(int keys, List<BinaryRow> rows, List<Column> ids, List<Column> fields) {
        this.ids = ids;
        this.fields = fields;
        this.first = new BinaryRow[keys];
        this.several = new boolean[keys];
        for (BinaryRow row : rows) {
            int key = row.int4(0);
            if (first[key] == null) {
                first[key] = row;
            } else {
                several[key] = true;
            }
        }
    }

    static int width(int ids, int fields) {
        return FIRST_ID + ids + fields;
    }

    @Override
    public int matches(int key) {
        return first[key] == null ? 0 : several[key] ? 2 : 1;
    }

    @Override
    public StoredRecord record(int key) {
        BinaryRow row = Objects.requireNonNull(first[key], "nothing was found for this key");
        return new StoredRecord() {
            @Override
            public Object id() {
                if (ids.size() == 1) {
                    return Objects.requireNonNull(
                            row.value(FIRST_ID, ids.getFirst().wire()));
                }
                List<@Nullable Object> parts = new ArrayList<>();
                for (int i = 0; i < ids.size(); i++) {
                    parts.add(row.value(FIRST_ID + i, ids.get(i).wire()));
                }
                return parts;
            }

            @Override
            public Object mark() {
                return row.int4(MARK);
            }

            @Override
            public @Nullable Object value(int field) {
                return row.value(
                        FIRST_ID + ids.size() + field, fields.get(field).wire());
            }

            @Override
            public boolean same(int field, @Nullable Object value) {
                Wire wire = fields.get(field).wire();
                if (wire == Wire.TEXT && value instanceof String text) {
                    return row.sameText(FIRST_ID + ids.size() + field, text);
                }
                return Values.same(value(field), value);
            }
        };
    }
}
