package dev.nachlauf.core.issue;

import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.step.FileRecords;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Rehearses;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.system.WritesTogether;
import dev.nachlauf.core.value.Kind;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Takes rows that are issued. It keeps nothing: a row is issued when its line stands in the ledger, so a batch of which the
 * ledger knows is written, whatever else has happened. Records are the rows of files that are there and keep them.
 */
public final class IssueSystem implements Writes {
    private static final int BATCH_ROWS = 10_000;

    private final Standing standing;

    /** Where files that are there are found. */
    public interface Standing {
        /** Whether a file of the name keeps its rows. */
        boolean keeps(String name);

        /** What a job writes to a file of the name that keeps its rows; empty where there is none. */
        Optional<RecordDescription> described(String name);

        /** The file of a name, as the run has found it; empty where there is none, or it is written anew. */
        Optional<StandingFile> file(String name);

        /** A folder for what is found in files. */
        Path scratch();
    }

    /** A system over the files of a place. */
    public IssueSystem(Standing standing) {
        this.standing = standing;
    }

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
        return standing.described(records)
                .or(() -> Optional.of(new RecordDescription(records, true, any, List.of(), List.of())));
    }

    @Override
    public Greeting greet() {
        return new Greeting("files", "", false, true);
    }

    @Override
    public Target target(RecordDescription description, TargetUse use) {
        return target(description, use, standing, new ArrayList<>());
    }

    /** @param opened what is open already, and is closed with the target that leads */
    private static Target target(
            RecordDescription description, TargetUse use, Standing standing, List<FileRecords> opened) {
        Optional<FileRecords> rows = standing.file(description.name())
                .map(file -> new StandingRows(file, description, use.key(), use.fields()).found(standing.scratch()));
        List<CellCodec> any = Collections.nCopies(use.fields().size(), CellCodec.ANY);
        List<Integer> key = use.key().stream().map(use.fields()::indexOf).toList();
        boolean keeps = standing.keeps(description.name());
        // what tells a row of a file from all others is its key
        List<CellCodec> id = Collections.nCopies(keeps ? key.size() : 1, CellCodec.ANY);
        rows.ifPresent(opened::add);
        return new IssueTarget(new Cells(any, key, id, CellCodec.ANY), keeps, rows, standing, opened);
    }

    @Override
    public void close() {
        // nothing is held open
    }

    private record IssueTarget(
            Cells cells, boolean keeps, Optional<FileRecords> rows, Standing standing, List<FileRecords> opened)
            implements Target, WritesTogether, Rehearses {
        @Override
        public Traits traits() {
            return new Traits(true, BATCH_ROWS, true);
        }

        @Override
        public void find(RowBlock wanted, int[] which, Found found) {
            if (rows.isEmpty()) {
                // nothing that was issued can be found
                return;
            }
            List<Object[]> keys = IntStream.of(which)
                    .mapToObj(row -> key(wanted, row).toArray())
                    .toList();
            var matches = rows.get().find(keys);
            StoredRecord lent = new StoredRecord(cells);
            for (int i = 0; i < which.length; i++) {
                var match = matches.get(i);
                for (int record = 0; record < match.matches(); record++) {
                    found.take(which[i], lent.over(stored(keys.get(i), match.values()), 0));
                }
            }
        }

        private List<@Nullable Object> key(RowBlock values, int row) {
            List<@Nullable Object> key = new ArrayList<>();
            cells.key()
                    .forEach(field ->
                            key.add(values.value(row, field, cells.fields().get(field))));
            return key;
        }

        private byte[] stored(Object[] key, @Nullable Object[] values) {
            ByteSink out = new ByteSink(256);
            cells.mark().write(null, out);
            for (Object part : key) {
                CellCodec.ANY.write(part, out);
            }
            for (Object value : values) {
                CellCodec.ANY.write(value, out);
            }
            return out.toArray();
        }

        @Override
        public void rehearse() {
            // nothing lasts in any case
        }

        @Override
        public Unit begin(UnitId id) {
            return new IssueUnit(this, new Token("issue " + id.run() + " " + id.batch()));
        }

        @Override
        public Target beside(RecordDescription description, TargetUse others) {
            return target(description, others, standing, opened);
        }

        @Override
        public void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers) {
            ((IssueTarget) beside).answer(changes, which, answers);
        }

        private void answer(ChangeSet changes, int[] which, Answers answers) {
            for (int row : which) {
                if (keeps && changes.kind(row) == ChangeSet.Kind.INSERT) {
                    List<@Nullable Object> id = key(changes.rows(), row);
                    answers.done(row, id.size() == 1 ? id.getFirst() : id);
                } else {
                    answers.done(row);
                }
            }
        }

        @Override
        public Settlement settle(Token token, ChangeSet inDoubt) {
            return new Settlement.Committed();
        }

        @Override
        public void close() {
            opened.forEach(FileRecords::close);
        }
    }

    private record IssueUnit(IssueTarget target, Target.Token token) implements Target.Unit {
        @Override
        public void apply(ChangeSet changes, int[] which, Answers answers) {
            target.answer(changes, which, answers);
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
