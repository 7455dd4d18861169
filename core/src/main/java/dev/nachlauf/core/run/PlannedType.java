package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.record.KeyBytes;
import dev.nachlauf.core.value.Values;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What is planned of the records of one type: found by what identifies them, and new ones by keys. */
final class PlannedType {
    private final Map<Object, One> byId = new HashMap<>();
    private final Map<List<String>, Map<ByteBuffer, List<One>>> added = new LinkedHashMap<>();

    /** A record as it is planned: all that a new record gets, or those fields that change of another. */
    static final class One {
        private final @Nullable Object id;
        private final Map<String, @Nullable Object> values = new HashMap<>();
        private boolean isNew;
        private boolean goes;

        One(@Nullable Object id) {
            this.id = id;
        }

        @Nullable
        Object id() {
            return id;
        }

        Map<String, @Nullable Object> values() {
            return values;
        }

        /** Whether it can be found by a key: what is not planned is as it was when it was found. */
        boolean agrees(List<String> fields, List<?> key) {
            for (int part = 0; part < key.size() && !goes; part++) {
                String field = fields.get(part);
                if (values.containsKey(field) && !Values.same(values.get(field), key.get(part))) {
                    return false;
                }
            }
            return !goes;
        }
    }

    /** New records will be looked for by these fields. */
    void index(List<String> fields) {
        added.putIfAbsent(fields, new HashMap<>());
    }

    /** Takes a line that changes a record; whether it is one more. */
    boolean take(LedgerRow line, PlannedWrite write) {
        Object id = line.id() == null ? new Object() : line.id();
        boolean more = !byId.containsKey(id);
        One one = byId.computeIfAbsent(id, any -> new One(line.id()));
        one.isNew |= line.outcome() == Outcome.INSERTED;
        one.goes = line.outcome() == Outcome.DELETED;
        for (int field = 0; field < write.fields().size() && !one.goes; field++) {
            if (line.changed().get(field)) {
                one.values.put(write.fieldNames().get(field), line.after()[field]);
            }
        }
        if (one.isNew && !one.goes) {
            added.forEach((fields, records) -> note(one, fields, records));
        }
        return more;
    }

    private static void note(One one, List<String> fields, Map<ByteBuffer, List<One>> records) {
        List<@Nullable Object> key = new ArrayList<>();
        fields.forEach(field -> key.add(one.values.get(field)));
        if (key.stream().allMatch(Objects::nonNull)) {
            List<One> same = records.computeIfAbsent(key(key), any -> new ArrayList<>(1));
            if (!same.contains(one)) {
                same.add(one);
            }
        }
    }

    private static ByteBuffer key(List<?> key) {
        return ByteBuffer.wrap(KeyBytes.of(key));
    }

    /** What is planned of a stored record; null where nothing is. */
    @Nullable
    One of(@Nullable Object id) {
        return byId.get(id);
    }

    /** New records with a key; {@code fields} were indexed. */
    List<One> added(List<String> fields, List<?> key) {
        Map<ByteBuffer, List<One>> records = Objects.requireNonNull(added.get(fields), "the fields are indexed");
        return records.getOrDefault(key(key), List.of()).stream()
                .filter(one -> one.agrees(fields, key))
                .toList();
    }
}
