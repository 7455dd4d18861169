package dev.nachlauf.contract.target;

import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** The records that a target found for some keys, kept as values, so that a test can look at them. */
public final class Matches {
    private final Target target;
    private final List<List<One>> found = new ArrayList<>();

    /** A record that was found. */
    public final class One {
        private final Object id;
        private final Object mark;
        private final List<@Nullable Object> values = new ArrayList<>();

        One(StoredRecord record) {
            id = Objects.requireNonNull(ChangeSet.id(target.cells(), record.data(), record.idAt()));
            mark = Objects.requireNonNull(target.cells().mark().read(record.data(), record.markAt()));
            for (int field = 0; field < target.cells().fields().size(); field++) {
                values.add(record.value(field));
            }
        }

        public Object id() {
            return id;
        }

        public Object mark() {
            return mark;
        }

        public @Nullable Object value(int field) {
            return values.get(field);
        }

        /** Whether the engine would see this value as the one that is stored. */
        public boolean same(int field, @Nullable Object value) {
            CellCodec codec = target.cells().fields().get(field);
            ByteSink own = new ByteSink(64);
            ByteSink stored = new ByteSink(64);
            codec.write(value, own);
            codec.write(values.get(field), stored);
            return codec.same(own.array(), 0, stored.array(), 0);
        }
    }

    private Matches(Target target, int keys) {
        this.target = target;
        for (int i = 0; i < keys; i++) {
            found.add(new ArrayList<>());
        }
    }

    /** Looks for keys of one part that stands first among the fields. */
    public static Matches find(Target target, List<?> keys, int fields) {
        return findRows(target, keys.stream().map(key -> new Object[] {key}).toList(), fields);
    }

    /** Looks for rows whose first values are the key. */
    public static Matches findRows(Target target, List<Object[]> rows, int width) {
        RowBlock.Builder block = new RowBlock.Builder(width, rows.size());
        for (Object[] row : rows) {
            for (int field = 0; field < width; field++) {
                block.add(
                        field < row.length ? row[field] : null,
                        target.cells().fields().get(field));
            }
        }
        Matches matches = new Matches(target, rows.size());
        target.find(
                block.build(),
                IntStream.range(0, rows.size()).toArray(),
                (row, record) -> matches.found.get(row).add(matches.new One(record)));
        return matches;
    }

    /** 0, 1, or more for several. */
    public int matches(int key) {
        return found.get(key).size();
    }

    /** The record of a key with at least one match. */
    public One record(int key) {
        return found.get(key).getFirst();
    }
}
