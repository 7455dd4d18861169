package dev.nachlauf.contract.memory;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.FindsAlike;
import dev.nachlauf.core.system.ListsRecords;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.WritesTogether;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Records in memory that are written one by one, each for good, as an application behind a network does it. Changes are
 * conditional: what somebody changed meanwhile, or added under the same key, is left alone. Answers can be lost, records
 * locked, and whoever waits for an answer can be made to wait.
 */
public final class RecordSystem extends MemoryRecords {
    /** What becomes of a change on its way. */
    public enum Way {
        /** It is done, and that is heard. */
        THERE_AND_BACK,
        /** It is done, and nobody hears of it. */
        ANSWER_LOST,
        /** It is not done, and nobody hears of it. */
        LOST,
        /** Somebody else holds the record: it is not done, and that is heard. */
        LOCKED,
        /** It is done, and then the connection is gone. */
        DONE_AND_GONE,
        /** It is not done, and the connection is gone. */
        GONE
    }

    private final Map<Object, Integer> sent = new HashMap<>();
    private Function<Object, Way> ways = key -> Way.THERE_AND_BACK;
    private Consumer<Object> before = key -> {};
    private Function<Map<String, @Nullable Object>, Optional<Problem>> refusal = values -> Optional.empty();

    public RecordSystem(RecordDescription... descriptions) {
        super(descriptions);
    }

    /** From now on the way of each change is what the function says of its key. */
    public void ways(Function<Object, Way> function) {
        ways = function;
    }

    /** From now on this is called before a change is done, with its key; it may wait. */
    public void before(Consumer<Object> hook) {
        before = hook;
    }

    /** Rows for which the function gives a problem are refused. */
    public void refuse(Function<Map<String, @Nullable Object>, Optional<Problem>> rule) {
        refusal = rule;
    }

    /** How often changes of the record with this key were sent. */
    public synchronized int sent(Object key) {
        return sent.getOrDefault(key, 0);
    }

    @Override
    public Target target(RecordDescription known, TargetUse use) {
        return new RecordTarget(known.name(), use);
    }

    private final class RecordTarget implements Target, WritesTogether, ListsRecords, FindsAlike {
        private final String type;
        private final TargetUse use;
        private final Cells cells;

        RecordTarget(String type, TargetUse use) {
            this.type = type;
            this.use = use;
            this.cells = Cells.plain(use);
        }

        @Override
        public Traits traits() {
            return new Traits(false, 500, false);
        }

        @Override
        public Cells cells() {
            return cells;
        }

        @Override
        public void list(Consumer<StoredRecord> to) {
            RecordSystem.this.list(type, use, cells, to);
        }

        @Override
        public void list(RowBlock block, int[] which, Consumer<StoredRecord> to) {
            find(block, which, (row, record) -> to.accept(record));
        }

        @Override
        public void alike(ChangeSet changes, int[] which, int[] fields, Found found) {
            RecordSystem.this.alike(type, use, changes, which, fields, found);
        }

        @Override
        public void find(RowBlock block, int[] which, Found found) {
            RecordSystem.this.find(type, use, cells, block, which, found);
        }

        @Override
        public Unit begin(UnitId id) {
            return new RecordUnit(this, new Token(id.toString()));
        }

        @Override
        public Target beside(RecordDescription description, TargetUse others) {
            return new RecordTarget(description.name(), others);
        }

        @Override
        public void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers) {
            new RecordUnit((RecordTarget) beside, unit.token()).apply(changes, which, answers);
        }

        @Override
        public Settlement settle(Token token, ChangeSet inDoubt) {
            return new Settlement.PerRecord();
        }

        @Override
        public void close() {
            // nothing is held open
        }
    }

    private final class RecordUnit implements Target.Unit {
        private final RecordTarget target;
        private final Target.Token token;

        RecordUnit(RecordTarget target, Target.Token token) {
            this.target = target;
            this.token = token;
        }

        @Override
        public Target.Token token() {
            return token;
        }

        @Override
        public void apply(ChangeSet changes, int[] which, Answers answers) {
            for (int number : which) {
                Object[] key = target.cells.key().stream()
                        .map(field -> changes.rows()
                                .value(number, field, target.cells.fields().get(field)))
                        .toArray();
                before.accept(key[0]);
                send(changes.change(number), key, number, answers);
            }
        }

        private void send(Change change, Object[] key, int number, Answers answers) {
            synchronized (RecordSystem.this) {
                sent.merge(key[0], 1, Integer::sum);
                switch (ways.apply(key[0])) {
                    case THERE_AND_BACK -> answer(change, key, number, answers);
                    case ANSWER_LOST -> {
                        answer(change, key, number, answers);
                        answers.forget(number);
                        answers.unknown(number);
                    }
                    case LOST -> answers.unknown(number);
                    case LOCKED -> answers.moved(number);
                    case DONE_AND_GONE -> {
                        answer(change, key, number, answers);
                        throw gone();
                    }
                    case GONE -> throw gone();
                }
            }
        }

        private static CannotGoOn gone() {
            return new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "The connection is gone.", ""));
        }

        private void answer(Change change, Object[] key, int number, Answers answers) {
            boolean doubled = change instanceof Change.Insert
                    && !matching(target.type, target.use.key(), key).isEmpty();
            Optional<Row> row = doubled ? Optional.empty() : made(change, target.type, target.use);
            Optional<Problem> problem = change instanceof Change.Delete
                    ? Optional.empty()
                    : row.flatMap(made -> refusal.apply(made.values()));
            if (row.isEmpty()) {
                answers.moved(number);
            } else if (problem.isPresent()) {
                answers.refused(number, List.of(problem.get()));
            } else if (change instanceof Change.Delete) {
                remove(row.get());
                answers.done(number);
            } else {
                put(row.get());
                answers.done(number, row.get().id());
            }
        }

        @Override
        public void commit() {
            // every record was written for good
        }

        @Override
        public void close() {
            // and can't be taken back
        }
    }
}
