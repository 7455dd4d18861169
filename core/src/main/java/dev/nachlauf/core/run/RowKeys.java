package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.step.LoadKeys;
import dev.nachlauf.core.step.LookupCache;
import dev.nachlauf.core.step.RecordFinder;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Which records rows mean that a write does not take, as far as that can be told. */
final class RowKeys {
    private final LookupCache cache;

    RowKeys(RecordFinder finder) {
        this.cache = new LookupCache(finder);
    }

    /** What a row means. */
    sealed interface Meant {
        /** The record with a key. */
        record Key(Object[] parts) implements Meant {}

        /** No record: something that its key is made of isn't there. */
        record NoRecord() implements Meant {}

        /** Nobody can tell. */
        record Unsure() implements Meant {}
    }

    /** What each row means for a write. */
    List<Meant> of(PlannedWrite write, List<FlowRow> rows) {
        List<Meant> meant = new ArrayList<>();
        rows.forEach(row -> meant.add(new Meant.Key(new Object[write.key().size()])));
        for (int part = 0; part < write.key().size(); part++) {
            PlannedWrite.Output output = write.fields().get(write.key().get(part));
            if (output.source() instanceof Source.Found found) {
                find(found.finding(), part, rows, meant);
            } else {
                for (int i = 0; i < rows.size(); i++) {
                    put(meant, i, part, LoadKeys.part(rows.get(i), output));
                }
            }
        }
        return meant;
    }

    private static void put(List<Meant> meant, int row, int part, @Nullable Object value) {
        if (meant.get(row) instanceof Meant.Key key) {
            if (value == null) {
                meant.set(row, new Meant.Unsure());
            } else {
                key.parts[part] = value;
            }
        }
    }

    private void find(Finding finding, int part, List<FlowRow> rows, List<Meant> meant) {
        List<@Nullable List<Object>> keys = new ArrayList<>();
        rows.forEach(row -> keys.add(LookupCache.key(finding, row, new ArrayList<>(0))));
        List<Found> found = cache.find(finding, keys);
        for (int i = 0; i < rows.size(); i++) {
            int matches = found.get(i).matches();
            if (keys.get(i) != null && matches == 0) {
                meant.set(i, new Meant.NoRecord());
            } else {
                put(meant, i, part, matches == 1 ? found.get(i).values()[0] : null);
            }
        }
    }
}
