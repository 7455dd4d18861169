package dev.nachlauf.contract.memory;

import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** Records in memory, by type: what the systems of this room have in common. All its state is guarded by itself. */
public abstract class MemoryRecords implements Writes, LooksUp {
    private final List<RecordDescription> descriptions;
    private final Map<Long, Row> rows = new LinkedHashMap<>();
    private long nextId = 1;
    private long nextMark = 1;

    /** A record: its type, its version and its values by field. */
    record Row(String type, long id, long mark, Map<String, @Nullable Object> values) {
        /** The id can be read like a field where the record type has a primary key. */
        @Nullable
        Object value(String field, List<RecordDescription> descriptions) {
            boolean isId = !values.containsKey(field)
                    && descriptions.stream()
                            .filter(description -> description.name().equals(type))
                            .flatMap(description -> description.primaryKey().stream())
                            .anyMatch(key -> key.fields().equals(List.of(field)));
            return isId ? (Object) id : values.get(field);
        }
    }

    MemoryRecords(RecordDescription... descriptions) {
        this.descriptions = List.of(descriptions);
    }

    /** The same records, of which changes are not those of the others. */
    MemoryRecords(MemoryRecords of) {
        descriptions = of.descriptions;
        synchronized (of) {
            rows.putAll(of.rows);
            nextId = of.nextId;
            nextMark = of.nextMark;
        }
    }

    /** The values of all records of the first type. */
    public synchronized List<Map<String, @Nullable Object>> records() {
        return records(descriptions.getFirst().name());
    }

    /** The values of all records of a type. */
    public synchronized List<Map<String, @Nullable Object>> records(String type) {
        return rows.values().stream()
                .filter(row -> row.type.equals(type))
                .map(Row::values)
                .toList();
    }

    /** The values of all records of a type by their id. */
    public synchronized Map<Long, Map<String, @Nullable Object>> recordsById(String type) {
        Map<Long, Map<String, @Nullable Object>> records = new LinkedHashMap<>();
        rows.values().stream().filter(row -> row.type.equals(type)).forEach(row -> records.put(row.id, row.values()));
        return records;
    }

    /** Adds a record of the first type beside any run. */
    public synchronized void add(Map<String, @Nullable Object> values) {
        add(descriptions.getFirst().name(), values);
    }

    /** Adds a record beside any run; the result is its id. */
    public synchronized long add(String type, Map<String, @Nullable Object> values) {
        put(new Row(type, nextId, nextMark++, values));
        return nextId++;
    }

    /** Changes a field of all records where another one has a value, as somebody else would. */
    public synchronized void change(String field, Object value, String changed, @Nullable Object to) {
        for (Row row : List.copyOf(rows.values())) {
            if (Values.same(row.values.get(field), value)) {
                Map<String, @Nullable Object> values = new LinkedHashMap<>(row.values);
                values.put(changed, to);
                put(new Row(row.type, row.id, nextMark++, values));
            }
        }
    }

    /** Removes records beside any run. */
    public synchronized void remove(String field, Object value) {
        rows.values().removeIf(row -> Values.same(row.values.get(field), value));
    }

    /** The id that comes next; nobody else gets it. */
    synchronized long takeId() {
        return nextId++;
    }

    synchronized void put(Row row) {
        rows.put(row.id, row);
    }

    synchronized void remove(Row row) {
        rows.remove(row.id);
    }

    /** The record that a change makes, of a new version; empty where the record moved since it was found. */
    synchronized Optional<Row> made(Change change, String type, TargetUse use) {
        return switch (change) {
            case Change.Insert insert -> {
                long id = insert.id() instanceof Long reserved ? reserved : nextId++;
                BitSet all = new BitSet();
                all.set(0, insert.after().length);
                yield Optional.of(
                        new Row(type, id, nextMark++, merged(new LinkedHashMap<>(), insert.after(), all, use)));
            }
            case Change.Update update ->
                still(update.id(), update.mark())
                        .map(row -> new Row(
                                type,
                                row.id,
                                nextMark++,
                                merged(new LinkedHashMap<>(row.values), update.after(), update.changed(), use)));
            case Change.Delete delete -> still(delete.id(), delete.mark());
        };
    }

    private Optional<Row> still(Object id, @Nullable Object mark) {
        return Optional.ofNullable(rows.get((Long) id)).filter(row -> Values.same(mark, row.mark));
    }

    private static Map<String, @Nullable Object> merged(
            Map<String, @Nullable Object> values, @Nullable Object[] written, BitSet which, TargetUse use) {
        which.stream().forEach(field -> values.put(use.fields().get(field), written[field]));
        return values;
    }

    synchronized List<Row> matching(String type, List<String> fields, Object[] key) {
        return rows.values().stream()
                .filter(row -> row.type.equals(type) && matches(row, fields, key))
                .toList();
    }

    private boolean matches(Row row, List<String> fields, Object[] key) {
        for (int i = 0; i < key.length; i++) {
            if (!Values.same(row.value(fields.get(i), descriptions), key[i])) {
                return false;
            }
        }
        return true;
    }

    /** Finds records for a target of one type. */
    void find(String type, TargetUse use, Cells cells, RowBlock block, int[] which, Target.Found found) {
        StoredRecord record = new StoredRecord(cells);
        for (int number : which) {
            Object[] parts = cells.key().stream()
                    .map(field -> block.value(number, field, CellCodec.ANY))
                    .toArray();
            for (Row row : matching(type, use.key(), parts)) {
                found.take(number, record.over(spelled(row, use), 0));
            }
        }
    }

    /** Finds a record for each row that agrees with it in some fields. */
    synchronized void alike(
            String type, TargetUse use, ChangeSet changes, int[] which, int[] fields, Target.Found found) {
        StoredRecord record = new StoredRecord(changes.cells());
        for (int number : which) {
            rows.values().stream()
                    .filter(row -> row.type.equals(type)
                            && IntStream.of(fields)
                                    .allMatch(field -> Values.same(
                                            row.values.get(use.fields().get(field)), changes.after(number, field))))
                    .findFirst()
                    .ifPresent(row -> found.take(number, record.over(spelled(row, use), 0)));
        }
    }

    /** Hands over all records of a type. */
    synchronized void list(String type, TargetUse use, Cells cells, Consumer<StoredRecord> to) {
        StoredRecord record = new StoredRecord(cells);
        rows.values().stream()
                .filter(row -> row.type.equals(type))
                .forEach(row -> to.accept(record.over(spelled(row, use), 0)));
    }

    private static byte[] spelled(Row row, TargetUse use) {
        ByteSink out = new ByteSink(256);
        CellCodec.ANY.write(row.mark, out);
        CellCodec.ANY.write(row.id, out);
        use.fields().forEach(field -> CellCodec.ANY.write(row.values.get(field), out));
        return out.toArray();
    }

    /** Gives ids to new records. */
    void reserve(ChangeSet changes, int[] inserts) {
        for (int insert : inserts) {
            changes.identify(insert, takeId());
        }
    }

    @Override
    public Greeting greet() {
        return new Greeting("memory", "", true, true);
    }

    @Override
    public List<RecordType> recordTypes() {
        return descriptions.stream()
                .map(description -> new RecordType(
                        description.name(),
                        "",
                        true,
                        OptionalLong.of(records(description.name()).size())))
                .toList();
    }

    @Override
    public Optional<RecordDescription> describe(String records) {
        return descriptions.stream()
                .filter(description -> description.name().equals(records))
                .findFirst();
    }

    @Override
    public List<Match> lookUp(String records, List<String> keyFields, List<String> wanted, List<Object[]> keys) {
        List<Match> matches = new ArrayList<>();
        for (Object[] key : keys) {
            List<Row> found = matching(records, keyFields, key);
            matches.add(
                    found.isEmpty()
                            ? Match.NONE
                            : new Match(
                                    Math.min(2, found.size()),
                                    wanted.stream()
                                            .map(field -> found.getFirst().value(field, descriptions))
                                            .toArray()));
        }
        return matches;
    }

    @Override
    public void close() {
        // nothing is held open
    }
}
