package dev.nachlauf.core.issue;

import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Rehearses;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.system.WritesTogether;
import dev.nachlauf.core.value.Kind;
import java.util.List;
import java.util.Optional;

/**
 * Takes rows that are issued. It holds no records and keeps nothing: a row is issued when its line stands in the ledger, so
 * a batch of which the ledger knows is written, whatever else has happened.
 */
public final class IssueSystem implements Writes {
    private static final int BATCH_ROWS = 10_000;

    @Override
    public List<RecordType> recordTypes() {
        return List.of();
    }

    @Override
    public Optional<RecordDescription> describe(String records) {
        return Optional.empty();
    }

    @Override
    public Optional<RecordDescription> describe(String records, List<String> fields) {
        List<FieldDescription> any = fields.stream()
                .map(field -> FieldDescription.plain(field, Kind.TEXT))
                .toList();
        return Optional.of(new RecordDescription(records, true, any, List.of(), List.of()));
    }

    @Override
    public Greeting greet() {
        return new Greeting("files", "", false, true);
    }

    @Override
    public Target target(RecordDescription description, TargetUse use) {
        return new IssueTarget(Cells.plain(use));
    }

    @Override
    public void close() {
        // nothing is held open
    }

    private record IssueTarget(Cells cells) implements Target, WritesTogether, Rehearses {
        @Override
        public Traits traits() {
            return new Traits(true, BATCH_ROWS, true);
        }

        @Override
        public void find(RowBlock rows, int[] which, Found found) {
            // nothing that was issued can be found
        }

        @Override
        public void rehearse() {
            // nothing lasts in any case
        }

        @Override
        public Unit begin(UnitId id) {
            return new IssueUnit(new Token("issue " + id.run() + " " + id.batch()));
        }

        @Override
        public Target beside(RecordDescription description, TargetUse others) {
            return new IssueTarget(Cells.plain(others));
        }

        @Override
        public void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers) {
            unit.apply(changes, which, answers);
        }

        @Override
        public Settlement settle(Token token, ChangeSet inDoubt) {
            return new Settlement.Committed();
        }

        @Override
        public void close() {
            // nothing is held open
        }
    }

    private record IssueUnit(Target.Token token) implements Target.Unit {
        @Override
        public void apply(ChangeSet changes, int[] which, Answers answers) {
            for (int row : which) {
                answers.done(row);
            }
        }

        @Override
        public void commit() {
            // the ledger has it
        }

        @Override
        public void close() {
            // there is nothing to undo
        }
    }
}
