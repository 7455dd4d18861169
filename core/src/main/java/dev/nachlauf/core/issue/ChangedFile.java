package dev.nachlauf.core.issue;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.record.KeyBytes;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.ValueCodec;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.spool.KeyedRows;
import dev.nachlauf.core.spool.RowFile;
import dev.nachlauf.core.system.RowEdits;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Makes a standing file anew with what a run does to its rows: changed rows stay where they stand, new ones come behind the
 * last. What is done to which row is found on disk, so memory does not grow with the file.
 */
final class ChangedFile {
    /** So many rows of the file are looked up at once. */
    private static final int AT_ONCE = 1_000;
    /** So many values of a noted edit say where its row stands: sheet, line, path. */
    private static final int PLACE = 3;

    private final StandingRows rows;
    private final Supplier<Iterator<LedgerRow>> lines;
    private final Path scratch;
    private final List<Waiting> waiting = new ArrayList<>();
    private long count;
    /** Rows that change, and aren't found in the file yet. */
    private long missing;

    /** A row of the file of which it isn't known yet what becomes of it. */
    private record Waiting(Origin at, byte[] key) {}

    /**
     * A file that is to be made.
     *
     * @param lines what the run does to its rows, in order, each time from the start
     */
    ChangedFile(StandingRows rows, Supplier<Iterator<LedgerRow>> lines, Path scratch) {
        this.rows = rows;
        this.lines = lines;
        this.scratch = scratch;
    }

    /** Makes it; the answer is how many rows it has then. */
    long make(OutputStream out) throws IOException {
        Path edits = scratch.resolve("edits");
        try (KeyedRows changes = new KeyedRows(scratch)) {
            for (Iterator<LedgerRow> all = lines.get(); all.hasNext(); ) {
                LedgerRow line = all.next();
                count += line.outcome() == Outcome.INSERTED ? 1 : 0;
                if (line.outcome() != Outcome.INSERTED) {
                    missing++;
                    changes.add(KeyBytes.of(Objects.requireNonNull(line.key())), line.position(), change(line));
                }
            }
            changes.finish();
            try (RowFile.Writer writer = new RowFile.Writer(edits)) {
                rows.each((row, key, ignored) -> {
                    count++;
                    if (key != null) {
                        waiting.add(new Waiting(row.origin(), key));
                    }
                    if (waiting.size() == AT_ONCE) {
                        note(changes, writer);
                    }
                });
                note(changes, writer);
                writer.finish(new byte[0]);
            }
        }
        if (missing != 0) {
            throw new IllegalStateException("rows that change and are not in the file: " + missing);
        }
        try (RowFile.Reader reader = new RowFile.Reader(edits)) {
            Edits all = new Edits(reader);
            rows.file().copy(all, out);
            all.requireDone();
        }
        return count;
    }

    private byte[] change(LedgerRow line) {
        List<@Nullable Object> change = new ArrayList<>();
        change.add(line.outcome() == Outcome.DELETED);
        for (int field = 0; field < rows.fields().size(); field++) {
            boolean changed =
                    line.outcome() == Outcome.UPDATED && line.changed().get(field);
            change.add(changed);
            change.add(changed ? line.after()[field] : null);
        }
        return ValueCodec.encode(change);
    }

    /** Notes what becomes of the rows that wait, where something does. */
    private void note(KeyedRows changes, RowFile.Writer writer) {
        List<KeyedRows.Match> matches =
                changes.find(waiting.stream().map(Waiting::key).toList());
        for (int i = 0; i < waiting.size(); i++) {
            if (matches.get(i).count() > 0) {
                List<@Nullable Object> edit = new ArrayList<>();
                Origin at = waiting.get(i).at();
                edit.addAll(List.of(at.sheet(), at.line(), at.path()));
                edit.addAll(ValueCodec.decode(matches.get(i).first()));
                count -= Boolean.TRUE.equals(edit.get(PLACE)) ? 1 : 0;
                missing--;
                writer.add(ValueCodec.encode(edit));
            }
        }
        waiting.clear();
    }

    /** The cells of a row in the order of the file's columns. */
    private @Nullable Object[] cells(List<@Nullable Object> values) {
        List<String> columns = rows.file().columns();
        @Nullable Object[] cells = new Object[columns.size()];
        for (int field = 0; field < values.size(); field++) {
            cells[columns.indexOf(rows.fields().get(field))] = values.get(field);
        }
        return cells;
    }

    private final class Edits implements RowEdits {
        private final RowFile.Reader reader;
        private final Iterator<LedgerRow> added = lines.get();
        private @Nullable List<@Nullable Object> next;

        Edits(RowFile.Reader reader) {
            this.reader = reader;
            advance();
        }

        private void advance() {
            byte[] row = reader.next();
            next = row == null ? null : ValueCodec.decode(row);
        }

        /** What the ledger tells stands in the file, whatever a format makes of its lines. */
        void requireDone() {
            if (next != null || next() != null) {
                throw new IllegalStateException("a row that changes was not asked for");
            }
        }

        @Override
        public @Nullable Edit at(String sheet, long line, String path) {
            List<@Nullable Object> at = next;
            if (at == null || !at.subList(0, PLACE).equals(List.of(sheet, line, path))) {
                return null;
            }
            advance();
            BitSet changed = new BitSet();
            List<@Nullable Object> values = new ArrayList<>();
            for (int field = 0; field < rows.fields().size(); field++) {
                if (Boolean.TRUE.equals(at.get(PLACE + 1 + 2 * field))) {
                    changed.set(rows.file().columns().indexOf(rows.fields().get(field)));
                }
                values.add(at.get(PLACE + 2 + 2 * field));
            }
            return new Edit(Boolean.TRUE.equals(at.get(PLACE)), changed, cells(values));
        }

        @Override
        public @Nullable Object @Nullable [] next() {
            while (added.hasNext()) {
                LedgerRow line = added.next();
                if (line.outcome() == Outcome.INSERTED) {
                    return cells(Arrays.asList(line.after()));
                }
            }
            return null;
        }
    }
}
