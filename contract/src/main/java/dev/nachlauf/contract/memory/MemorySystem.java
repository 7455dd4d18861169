package dev.nachlauf.contract.memory;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.system.WritesTogether;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Records in memory, with units that are atomic and span all record types. */
public final class MemorySystem implements Writes, LooksUp {
    private final List<RecordDescription> descriptions;
    private final Map<Long, Row> rows = new LinkedHashMap<>();
    private final Set<String> committed = new HashSet<>();
    private Function<Map<String, @Nullable Object>, Optional<Problem>> refusal = values -> Optional.empty();
    private long nextId = 1;
    private long nextMark = 1;
    private long nextUnit = 1;
    private boolean failCommits;
    private Runnable betweenFindAndApply = () -> {};

    /** A record: its type, its version and its values by field. */
    private record Row(String type, long id, long mark, Map<String, @Nullable Object> values) {
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

    public MemorySystem(RecordDescription... descriptions) {
        this.descriptions = List.of(descriptions);
    }

    /** Rows for which the function gives a problem are refused. */
    public void refuse(Function<Map<String, @Nullable Object>, Optional<Problem>> rule) {
        refusal = rule;
    }

    /** From now on a commit takes effect, but nobody hears of it. */
    public void loseAnswersOfCommits(boolean lose) {
        failCommits = lose;
    }

    /** Lets somebody else act once, after the next look and before the changes that follow from it. */
    public void meanwhile(Runnable action) {
        betweenFindAndApply = action;
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

    private void put(Row row) {
        rows.put(row.id, row);
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
    public Target target(RecordDescription known, TargetUse use) {
        return new MemoryTarget(known.name(), use);
    }

    @Override
    public synchronized List<Match> lookUp(
            String records, List<String> keyFields, List<String> wanted, List<Object[]> keys) {
        List<Match> matches = new ArrayList<>();
        for (Object[] key : keys) {
            List<Row> found = rows.values().stream()
                    .filter(row -> row.type.equals(records) && matches(row, keyFields, key))
                    .toList();
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

    private boolean matches(Row row, List<String> fields, Object[] key) {
        for (int i = 0; i < key.length; i++) {
            if (!Values.same(row.value(fields.get(i), descriptions), key[i])) {
                return false;
            }
        }
        return true;
    }

    @Override
    public void close() {
        // nothing is held open
    }

    private final class MemoryTarget implements Target, ReservesIds, WritesTogether {
        private final String type;
        private final TargetUse use;
        private final Cells cells;

        MemoryTarget(String type, TargetUse use) {
            this.type = type;
            this.use = use;
            this.cells = Cells.plain(use);
        }

        @Override
        public Traits traits() {
            return new Traits(true, 10_000, true);
        }

        @Override
        public Cells cells() {
            return cells;
        }

        @Override
        public void find(RowBlock block, int[] which, Found found) {
            List<Integer> key = cells.key();
            StoredRecord record = new StoredRecord(cells);
            for (int number : which) {
                Object[] parts = key.stream()
                        .map(field -> block.value(number, field, CellCodec.ANY))
                        .toArray();
                for (Row row : matching(parts)) {
                    found.take(number, record.over(spelled(row), 0));
                }
            }
        }

        private List<Row> matching(Object[] key) {
            synchronized (MemorySystem.this) {
                return rows.values().stream()
                        .filter(row -> row.type.equals(type) && matches(row, use.key(), key))
                        .toList();
            }
        }

        private byte[] spelled(Row row) {
            ByteSink out = new ByteSink(256);
            CellCodec.ANY.write(row.mark, out);
            CellCodec.ANY.write(row.id, out);
            use.fields().forEach(field -> CellCodec.ANY.write(row.values.get(field), out));
            return out.toArray();
        }

        @Override
        public void reserve(ChangeSet changes, int[] inserts) {
            synchronized (MemorySystem.this) {
                for (int insert : inserts) {
                    changes.identify(insert, nextId++);
                }
            }
        }

        @Override
        public Unit begin(UnitId id) {
            synchronized (MemorySystem.this) {
                betweenFindAndApply.run();
                betweenFindAndApply = () -> {};
                return new MemoryUnit(type, use, new Token("memory " + nextUnit++), new ArrayList<>());
            }
        }

        @Override
        public Target beside(RecordDescription description, TargetUse others) {
            return new MemoryTarget(description.name(), others);
        }

        @Override
        public void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers) {
            MemoryTarget other = (MemoryTarget) beside;
            new MemoryUnit(other.type, other.use, unit.token(), ((MemoryUnit) unit).work)
                    .apply(changes, which, answers);
        }

        @Override
        public Settlement settle(Token token, ChangeSet inDoubt) {
            synchronized (MemorySystem.this) {
                return committed.contains(token.text()) ? new Settlement.Committed() : new Settlement.RolledBack();
            }
        }

        @Override
        public void close() {
            // nothing is held open
        }
    }

    private final class MemoryUnit implements Target.Unit {
        private final String type;
        private final TargetUse use;
        private final Target.Token token;
        private final List<Runnable> work;

        MemoryUnit(String type, TargetUse use, Target.Token token, List<Runnable> work) {
            this.type = type;
            this.use = use;
            this.token = token;
            this.work = work;
        }

        @Override
        public Target.Token token() {
            return token;
        }

        @Override
        public void apply(ChangeSet changes, int[] which, Answers answers) {
            synchronized (MemorySystem.this) {
                for (int number : which) {
                    answer(changes, number, answers);
                }
            }
        }

        private void answer(ChangeSet changes, int number, Answers answers) {
            switch (changes.change(number)) {
                case Change.Insert insert -> {
                    long id = insert.id() instanceof Long reserved ? reserved : nextId++;
                    BitSet all = new BitSet();
                    all.set(0, insert.after().length);
                    Map<String, @Nullable Object> values = merged(new LinkedHashMap<>(), insert.after(), all);
                    write(number, new Row(type, id, nextMark++, values), answers);
                }
                case Change.Update update -> {
                    Row row = rows.get((Long) update.id());
                    if (row == null || !Values.same(update.mark(), row.mark)) {
                        answers.moved(number);
                        return;
                    }
                    Map<String, @Nullable Object> values =
                            merged(new LinkedHashMap<>(row.values), update.after(), update.changed());
                    write(number, new Row(type, row.id, nextMark++, values), answers);
                }
                case Change.Delete delete -> {
                    Row row = rows.get((Long) delete.id());
                    if (row == null || !Values.same(delete.mark(), row.mark)) {
                        answers.moved(number);
                        return;
                    }
                    work.add(() -> rows.remove(row.id));
                    answers.done(number);
                }
            }
        }

        private void write(int number, Row row, Answers answers) {
            Optional<Problem> problem = refusal.apply(row.values);
            if (problem.isPresent()) {
                answers.refused(number, List.of(problem.get()));
            } else {
                work.add(() -> put(row));
                answers.done(number, row.id);
            }
        }

        private Map<String, @Nullable Object> merged(
                Map<String, @Nullable Object> values, @Nullable Object[] written, BitSet which) {
            which.stream().forEach(field -> values.put(use.fields().get(field), written[field]));
            return values;
        }

        @Override
        public void commit() {
            synchronized (MemorySystem.this) {
                work.forEach(Runnable::run);
                work.clear();
                committed.add(token.text());
                if (failCommits) {
                    throw new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "The answer was lost.", ""));
                }
            }
        }

        @Override
        public void close() {
            work.clear();
        }
    }
}
