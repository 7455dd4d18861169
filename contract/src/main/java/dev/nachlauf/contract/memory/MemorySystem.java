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
import dev.nachlauf.core.system.Rehearses;
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

    private MemorySystem(MemorySystem of) {
        super(of);
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
        return new MemoryTarget(known.name(), use, new Session(this));
    }

    /** What others do not see until it is theirs too: of a rehearsal that is never. */
    private MemorySystem copy() {
        MemorySystem copy = new MemorySystem(this);
        copy.refusal = refusal;
        return copy;
    }

    /** What targets over one connection share. */
    private static final class Session {
        private final MemorySystem open;
        private MemorySystem system;

        Session(MemorySystem open) {
            this.open = open;
            this.system = open;
        }
    }

    private static final class MemoryTarget
            implements Target, ReservesIds, WritesTogether, ListsRecords, FindsAlike, Rehearses {
        private final String type;
        private final TargetUse use;
        private final Cells cells;
        private final Session session;

        MemoryTarget(String type, TargetUse use, Session session) {
            this.session = session;
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
            session.system.list(type, use, cells, to);
        }

        @Override
        public void list(RowBlock block, int[] which, Consumer<StoredRecord> to) {
            find(block, which, (row, record) -> to.accept(record));
        }

        @Override
        public void alike(ChangeSet changes, int[] which, int[] fields, Found found) {
            session.system.alike(type, use, changes, which, fields, found);
        }

        @Override
        public void find(RowBlock block, int[] which, Found found) {
            session.system.find(type, use, cells, block, which, found);
        }

        @Override
        public void rehearse() {
            if (session.system == session.open) {
                session.system = session.open.copy();
            }
        }

        @Override
        public boolean hasIds() {
            return true;
        }

        @Override
        public void reserve(ChangeSet changes, int[] inserts) {
            session.system.reserve(changes, inserts);
        }

        @Override
        public Unit begin(UnitId id) {
            MemorySystem system = session.system;
            synchronized (system) {
                system.betweenFindAndApply.run();
                system.betweenFindAndApply = () -> {};
                Token token = new Token("memory " + system.nextUnit++);
                return new MemoryUnit(system, type, use, token, new ArrayList<>());
            }
        }

        @Override
        public Target beside(RecordDescription description, TargetUse others) {
            return new MemoryTarget(description.name(), others, session);
        }

        @Override
        public void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers) {
            MemoryTarget other = (MemoryTarget) beside;
            new MemoryUnit(session.system, other.type, other.use, unit.token(), ((MemoryUnit) unit).work)
                    .apply(changes, which, answers);
        }

        @Override
        public Settlement settle(Token token, ChangeSet inDoubt) {
            synchronized (session.system) {
                return session.system.committed.contains(token.text())
                        ? new Settlement.Committed()
                        : new Settlement.RolledBack();
            }
        }

        @Override
        public void close() {
            // nothing is held open
        }
    }

    private static final class MemoryUnit implements Target.Unit {
        private final MemorySystem system;
        private final String type;
        private final TargetUse use;
        private final Target.Token token;
        private final List<Runnable> work;

        MemoryUnit(MemorySystem system, String type, TargetUse use, Target.Token token, List<Runnable> work) {
            this.system = system;
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
            synchronized (system) {
                for (int number : which) {
                    answer(changes.change(number), number, answers);
                }
            }
        }

        private void answer(Change change, int number, Answers answers) {
            Optional<Row> row = system.made(change, type, use);
            if (row.isEmpty()) {
                answers.moved(number);
            } else if (change instanceof Change.Delete) {
                work.add(() -> system.remove(row.get()));
                answers.done(number);
            } else {
                write(number, row.get(), answers);
            }
        }

        private void write(int number, Row row, Answers answers) {
            Optional<Problem> problem = system.refusal.apply(row.values());
            if (problem.isPresent()) {
                answers.refused(number, List.of(problem.get()));
            } else {
                work.add(() -> system.put(row));
                answers.done(number, row.id());
            }
        }

        @Override
        public void commit() {
            synchronized (system) {
                work.forEach(Runnable::run);
                work.clear();
                system.committed.add(token.text());
                if (system.failCommits) {
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
