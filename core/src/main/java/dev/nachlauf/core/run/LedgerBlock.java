package dev.nachlauf.core.run;

import com.github.luben.zstd.Zstd;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Lines of the ledger as bytes, column beside column, so that equal things lie side by side and compress well. Cells are
 * as the target spells them, and the block says how that is. {@link LedgerLines} reads it; the two stand for the second
 * format of chunks.
 */
final class LedgerBlock {
    /** The first byte of a block; that of the first format is the one of {@code RowCodec}. */
    static final byte VERSION = 2;

    static final int PASSED = 0x10;
    static final int TAKEN = 0x20;
    static final int KEYED = 0x40;
    static final int OUTCOME = 0x0F;
    private static final int LEVEL = 1;
    private static final int LARGEST_BLOCK = 1 << 30;

    private final List<Columns> writes = new ArrayList<>();
    private final ByteSink numbers = new ByteSink(1 << 12);
    private final ByteSink outcomes = new ByteSink(1 << 12);
    private final ByteSink intents = new ByteSink(1 << 12);
    private final ByteSink ofWrites = new ByteSink(1 << 12);
    private final ByteSink sources = new ByteSink(1 << 12);
    private final ByteSink notes = new ByteSink(1 << 12);
    private final ByteSink keys = new ByteSink(64);
    private final Map<String, Integer> words = new LinkedHashMap<>();
    private long lastNumber;
    private long lastLine;
    private int lines;

    /** The cells of one write. */
    private static final class Columns {
        private final Cells cells;
        private final boolean[] isKey;
        private final ByteSink ids = new ByteSink(1 << 12);
        private final ByteSink marks = new ByteSink(64);
        private final ByteSink masks = new ByteSink(64);
        private final ByteSink[] before;
        private final ByteSink[] after;

        Columns(Cells cells) {
            this.cells = cells;
            int fields = cells.fields().size();
            isKey = new boolean[fields];
            cells.key().forEach(field -> isKey[field] = true);
            before = sinks(fields);
            after = sinks(fields);
        }

        private static ByteSink[] sinks(int count) {
            ByteSink[] sinks = new ByteSink[count];
            for (int i = 0; i < count; i++) {
                sinks[i] = new ByteSink(64);
            }
            return sinks;
        }
    }

    /** @param cells how the target of each write spells its records */
    LedgerBlock(List<Cells> cells) {
        cells.forEach(one -> writes.add(new Columns(one)));
    }

    /** What is said of a line beside its record. */
    record Line(
            long number,
            long position,
            long group,
            String source,
            long line,
            Outcome outcome,
            Outcome intent,
            boolean passed,
            String note) {}

    private void begin(Line line, int write, int flags) {
        numbers.varint(line.number - lastNumber - 1);
        numbers.varint(line.position - line.number);
        numbers.varint(line.group - line.position);
        numbers.varint(line.line - lastLine - 1);
        lastNumber = line.number;
        lastLine = line.line;
        outcomes.byte1((byte) (line.outcome.ordinal() | (line.passed ? PASSED : 0) | flags));
        intents.byte1((byte) line.intent.ordinal());
        ofWrites.varint(write);
        sources.varint(word(line.source));
        notes.varint(word(line.note));
        lines++;
    }

    private int word(String word) {
        Integer known = words.get(word);
        if (known == null) {
            known = words.size();
            words.put(word, known);
        }
        return known;
    }

    /** Adds the line of a row that no write took. */
    void add(Line line, int write, Object @Nullable [] key) {
        begin(line, write, key == null ? 0 : KEYED);
        if (key != null) {
            CellCodec.ANY.write(List.of(key), keys);
        }
    }

    /** Adds the line of a row that a write took; {@code place} is its place in the set. */
    void add(Line line, int write, ChangeSet changes, Answers answers, int place) {
        begin(line, write, TAKEN);
        Columns columns = writes.get(write);
        if (answers.storedAt(place) >= 0 && line.outcome != Outcome.REJECTED) {
            add(columns, line.outcome, changes, place, answers.told(), answers.storedAt(place));
        } else {
            add(columns, line.outcome, changes, place, null, 0);
        }
        if (line.outcome != Outcome.REJECTED) {
            boolean given = answers.idAt(place) >= 0;
            id(columns, given ? answers.told() : changes.kept(), given ? answers.idAt(place) : changes.idAt(place));
        }
    }

    /** The values of a record; those behind it are the row's own, or what the target says that it has stored. */
    private static void add(
            Columns columns, Outcome outcome, ChangeSet changes, int place, byte @Nullable [] stored, int storedAt) {
        RowBlock rows = changes.rows();
        boolean update = outcome == Outcome.UPDATED;
        boolean delete = outcome == Outcome.DELETED;
        byte[] kept = changes.kept();
        int old = changes.beforeAt(place);
        int cell = storedAt;
        for (int field = 0; field < rows.width(); field++) {
            boolean changed = outcome.isNew() || update && changes.isChanged(place, field);
            if (stored != null && (changed || columns.isKey[field])) {
                columns.after[field].range(stored, cell, CellCodec.end(stored, cell));
            } else if (changed || columns.isKey[field]) {
                columns.after[field].range(rows.data(), rows.at(place, field), rows.end(place, field));
            }
            cell = stored == null ? cell : CellCodec.end(stored, cell);
            if (update || delete) {
                int next = CellCodec.end(kept, old);
                if (delete || changed) {
                    columns.before[field].range(kept, old, next);
                }
                old = next;
            }
        }
        if (update) {
            for (long word : changes.mask(place)) {
                columns.masks.varint(word);
            }
        }
        if (update || delete) {
            int mark = changes.markAt(place);
            columns.marks.range(kept, mark, CellCodec.end(kept, mark));
        }
    }

    private static void id(Columns columns, byte[] bytes, int at) {
        int cell = at;
        for (int part = 0; part < columns.cells.id().size(); part++) {
            if (at < 0) {
                columns.ids.int4(CellCodec.NULL);
            } else {
                int next = CellCodec.end(bytes, cell);
                columns.ids.range(bytes, cell, next);
                cell = next;
            }
        }
    }

    /** Adds a line as it was read, perhaps with another outcome. */
    void add(LedgerRow row) {
        Line line = new Line(
                row.number(),
                row.position(),
                row.group(),
                row.source(),
                row.line(),
                row.outcome(),
                row.intent(),
                row.passed(),
                row.note());
        if (!row.taken()) {
            add(line, row.write(), row.key() == null ? null : row.key().toArray());
            return;
        }
        begin(line, row.write(), TAKEN);
        Columns columns = writes.get(row.write());
        fields(row, columns);
        Cells cells = columns.cells;
        boolean deleted = row.outcome() == Outcome.DELETED;
        if (row.outcome() == Outcome.UPDATED) {
            words(row.changed(), cells.fields().size(), columns.masks);
        }
        if (row.outcome() == Outcome.UPDATED || deleted) {
            cells.mark().write(row.mark(), columns.marks);
        }
        if (row.outcome() != Outcome.REJECTED) {
            for (int part = 0; part < cells.id().size(); part++) {
                Object id = row.id() instanceof List<?> parts ? parts.get(part) : row.id();
                cells.id().get(part).write(id, columns.ids);
            }
        }
    }

    private static void fields(LedgerRow row, Columns columns) {
        Cells cells = columns.cells;
        List<Object> key = row.key() == null ? List.of() : row.key();
        boolean inserted = row.outcome().isNew();
        boolean deleted = row.outcome() == Outcome.DELETED;
        for (int field = 0; field < cells.fields().size(); field++) {
            CellCodec codec = cells.fields().get(field);
            boolean changed = inserted
                    || row.outcome() == Outcome.UPDATED && row.changed().get(field);
            if (changed) {
                codec.write(row.after()[field], columns.after[field]);
            } else if (columns.isKey[field]) {
                codec.write(key.get(cells.key().indexOf(field)), columns.after[field]);
            }
            if (deleted || changed && !inserted) {
                codec.write(row.before()[field], columns.before[field]);
            }
        }
    }

    private static void words(BitSet changed, int fields, ByteSink masks) {
        long[] words = changed.toLongArray();
        for (int word = 0; word * Long.SIZE < fields; word++) {
            masks.varint(word < words.length ? words[word] : 0);
        }
    }

    /** The block; nothing can be added any more. */
    byte[] pack() {
        ByteSink out = new ByteSink(1 << 16);
        out.int4(lines);
        out.varint(writes.size());
        for (Columns columns : writes) {
            spelling(columns.cells, out);
        }
        out.varint(words.size());
        words.keySet().forEach(out::text);
        for (ByteSink column : List.of(numbers, outcomes, intents, ofWrites, sources, notes, keys)) {
            column(column, out);
        }
        for (Columns columns : writes) {
            column(columns.ids, out);
            column(columns.marks, out);
            column(columns.masks, out);
            for (int field = 0; field < columns.after.length; field++) {
                column(columns.after[field], out);
                column(columns.before[field], out);
            }
        }
        if (out.size() > LARGEST_BLOCK) {
            throw new IllegalArgumentException("a block of " + out.size() + " bytes could not be read again");
        }
        byte[] packed = new byte[(int) Zstd.compressBound(out.size())];
        int size = (int) Zstd.compressByteArray(packed, 0, packed.length, out.array(), 0, out.size(), LEVEL);
        ByteSink block = new ByteSink(size + 16);
        block.byte1(VERSION);
        block.int4(out.size());
        block.range(packed, 0, size);
        return block.toArray();
    }

    private static void spelling(Cells cells, ByteSink out) {
        out.varint(cells.fields().size());
        cells.fields().forEach(codec -> out.byte1(codec.tag()));
        out.varint(cells.key().size());
        cells.key().forEach(out::varint);
        out.varint(cells.id().size());
        cells.id().forEach(codec -> out.byte1(codec.tag()));
        out.byte1(cells.mark().tag());
    }

    private static void column(ByteSink column, ByteSink out) {
        out.varint(column.size());
        out.range(column.array(), 0, column.size());
    }
}
