package dev.nachlauf.contract.memory;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.system.WritesTogether;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
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

        MemoryTarget(String type, TargetUse use) {
            this.type = type;
            this.use = use;
        }

        @Override
        public Traits traits() {
            return new Traits(true, 10_000, true);
        }

        @Override
        public Stored find(Keys keys, FieldSet wanted) {
            synchronized (MemorySystem.this) {
                List<List<Row>> found = new ArrayList<>();
                for (Object[] key : keys.values()) {
                    found.add(rows.values().stream()
                            .filter(row -> row.type.equals(type) && matches(row, keys.fields(), key))
                            .toList());
                }
                return new MemoryStored(found, wanted.names());
            }
        }

        @Override
        public List<Object> reserve(int count) {
            synchronized (MemorySystem.this) {
                List<Object> ids = new ArrayList<>();
                for (int i = 0; i < count; i++) {
                    ids.add(nextId++);
                }
                return ids;
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
        public List<Answer> apply(Unit unit, Target beside, List<Change> changes) {
            MemoryTarget other = (MemoryTarget) beside;
            return new MemoryUnit(other.type, other.use, unit.token(), ((MemoryUnit) unit).work).apply(changes);
        }

        @Override
        public Settlement settle(Token token, List<Change> inDoubt) {
            synchronized (MemorySystem.this) {
                return committed.contains(token.text()) ? new Settlement.Committed() : new Settlement.RolledBack();
            }
        }

        @Override
        public void close() {
            // nothing is held open
        }
    }

    private record MemoryStored(List<List<Row>> found, List<String> fields) implements Target.Stored {
        @Override
        public int matches(int key) {
            return Math.min(2, found.get(key).size());
        }

        @Override
        public Target.StoredRecord record(int key) {
            Row row = found.get(key).getFirst();
            return new Target.StoredRecord() {
                @Override
                public Object id() {
                    return row.id;
                }

                @Override
                public Object mark() {
                    return row.mark;
                }

                @Override
                public @Nullable Object value(int field) {
                    return row.values.get(fields.get(field));
                }

                @Override
                public boolean same(int field, @Nullable Object value) {
                    return Values.same(value(field), value);
                }
            };
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
        public List<Answer> apply(List<Change> changes) {
            synchronized (MemorySystem.this) {
                return changes.stream().map(this::answer).toList();
            }
        }

        private Answer answer(Change change) {
            return switch (change) {
                case Change.Insert insert -> {
                    Map<String, @Nullable Object> values = merged(new LinkedHashMap<>(), insert.after());
                    long id = insert.id() instanceof Long reserved ? reserved : nextId++;
                    yield refusal.apply(values)
                            .<Answer>map(problem -> new Answer.Refused(List.of(problem)))
                            .orElseGet(() -> {
                                work.add(() -> put(new Row(type, id, nextMark++, values)));
                                return new Answer.Done(id, null);
                            });
                }
                case Change.Update update -> {
                    Row row = rows.get((Long) update.id());
                    if (row == null || !update.mark().equals(row.mark)) {
                        yield new Answer.Moved();
                    }
                    Map<String, @Nullable Object> values = merged(new LinkedHashMap<>(row.values), update.after());
                    yield refusal.apply(values)
                            .<Answer>map(problem -> new Answer.Refused(List.of(problem)))
                            .orElseGet(() -> {
                                work.add(() -> put(new Row(type, row.id, nextMark++, values)));
                                return new Answer.Done(row.id, null);
                            });
                }
                case Change.Delete delete -> {
                    Row row = rows.get((Long) delete.id());
                    if (row == null || !delete.mark().equals(row.mark)) {
                        yield new Answer.Moved();
                    }
                    work.add(() -> rows.remove(row.id));
                    yield new Answer.Done(row.id, null);
                }
            };
        }

        private Map<String, @Nullable Object> merged(Map<String, @Nullable Object> values, @Nullable Object[] written) {
            for (int i = 0; i < written.length; i++) {
                values.put(use.fields().get(i), written[i]);
            }
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
