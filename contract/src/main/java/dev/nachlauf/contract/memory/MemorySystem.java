package dev.nachlauf.contract.memory;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ListsRecords;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.WritesTogether;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Records in memory, with units that are atomic and span all record types. */
public final class MemorySystem extends MemoryRecords {
    private final Set<String> committed = new HashSet<>();
    private Function<Map<String, @Nullable Object>, Optional<Problem>> refusal = values -> Optional.empty();
    private long nextUnit = 1;
    private boolean failCommits;
    private Runnable betweenFindAndApply = () -> {};

    public MemorySystem(RecordDescription... descriptions) {
        super(descriptions);
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

    @Override
    public Target target(RecordDescription known, TargetUse use) {
        return new MemoryTarget(known.name(), use);
    }

    private final class MemoryTarget implements Target, ReservesIds, WritesTogether, ListsRecords {
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
        public void list(Consumer<StoredRecord> to) {
            MemorySystem.this.list(type, use, cells, to);
        }

        @Override
        public void list(RowBlock block, int[] which, Consumer<StoredRecord> to) {
            find(block, which, (row, record) -> to.accept(record));
        }

        @Override
        public void find(RowBlock block, int[] which, Found found) {
            MemorySystem.this.find(type, use, cells, block, which, found);
        }

        @Override
        public boolean hasIds() {
            return true;
        }

        @Override
        public void reserve(ChangeSet changes, int[] inserts) {
            MemorySystem.this.reserve(changes, inserts);
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
                    answer(changes.change(number), number, answers);
                }
            }
        }

        private void answer(Change change, int number, Answers answers) {
            Optional<Row> row = made(change, type, use);
            if (row.isEmpty()) {
                answers.moved(number);
            } else if (change instanceof Change.Delete) {
                work.add(() -> remove(row.get()));
                answers.done(number);
            } else {
                write(number, row.get(), answers);
            }
        }

        private void write(int number, Row row, Answers answers) {
            Optional<Problem> problem = refusal.apply(row.values());
            if (problem.isPresent()) {
                answers.refused(number, List.of(problem.get()));
            } else {
                work.add(() -> put(row));
                answers.done(number, row.id());
            }
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
