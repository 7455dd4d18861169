package dev.nachlauf.core.run;

import com.github.luben.zstd.Zstd;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.record.ByteSource;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.system.Cells;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The lines of a {@link LedgerBlock}, one after the other.
 *
 * @param cells how the target of each write spelled its records
 * @param rows the lines
 */
record LedgerLines(List<Cells> cells, List<LedgerRow> rows) {
    private static final Outcome[] OUTCOMES = Outcome.values();
    private static final int HEAD = 1 + Integer.BYTES;
    private static final int LARGEST_BLOCK = 1 << 30;

    /** Reads a block; a damaged one is refused and costs no memory. */
    static LedgerLines of(byte[] block) {
        ByteSource head = new ByteSource(block, 1, HEAD);
        int size = head.int4();
        if (size < 0 || size > LARGEST_BLOCK || Zstd.getFrameContentSize(block, HEAD, block.length - HEAD) != size) {
            throw new IllegalArgumentException("a block of the ledger is damaged: it states two sizes");
        }
        byte[] bytes = new byte[size];
        Zstd.decompressByteArray(bytes, 0, size, block, HEAD, block.length - HEAD);
        return new Reading(new ByteSource(bytes, 0, size)).lines();
    }

    /** The columns, each with a place of its own. */
    private static final class Reading {
        private final int lines;
        private final List<Cells> cells = new ArrayList<>();
        private final List<String> words = new ArrayList<>();
        private final ByteSource numbers;
        private final ByteSource outcomes;
        private final ByteSource intents;
        private final ByteSource ofWrites;
        private final ByteSource sources;
        private final ByteSource notes;
        private final ByteSource keys;
        private final List<Columns> writes = new ArrayList<>();
        private long lastNumber;
        private long lastLine;

        Reading(ByteSource in) {
            lines = in.int4();
            int count = in.count();
            for (int w = 0; w < count; w++) {
                cells.add(spelling(in));
            }
            int known = in.count();
            for (int i = 0; i < known; i++) {
                words.add(in.text());
            }
            numbers = in.part();
            outcomes = in.part();
            intents = in.part();
            ofWrites = in.part();
            sources = in.part();
            notes = in.part();
            keys = in.part();
            cells.forEach(one -> writes.add(new Columns(one, in)));
        }

        private static Cells spelling(ByteSource in) {
            List<CellCodec> fields = codecs(in);
            int parts = in.count();
            List<Integer> key = new ArrayList<>();
            for (int i = 0; i < parts; i++) {
                key.add((int) in.varint());
            }
            return new Cells(fields, key, codecs(in), CellCodec.of(in.byte1()));
        }

        private static List<CellCodec> codecs(ByteSource in) {
            int count = in.count();
            List<CellCodec> codecs = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                codecs.add(CellCodec.of(in.byte1()));
            }
            return codecs;
        }

        LedgerLines lines() {
            List<LedgerRow> rows = new ArrayList<>();
            for (int i = 0; i < lines; i++) {
                rows.add(line());
            }
            return new LedgerLines(cells, rows);
        }

        private LedgerRow line() {
            long number = lastNumber + 1 + numbers.varint();
            long position = number + numbers.varint();
            long group = position + numbers.varint();
            long line = lastLine + 1 + numbers.varint();
            lastNumber = number;
            lastLine = line;
            int flags = outcomes.byte1();
            Outcome outcome = OUTCOMES[flags & LedgerBlock.OUTCOME];
            Outcome intent = OUTCOMES[intents.byte1()];
            int write = (int) ofWrites.varint();
            String source = words.get((int) sources.varint());
            String note = words.get((int) notes.varint());
            boolean passed = (flags & LedgerBlock.PASSED) != 0;
            boolean taken = (flags & LedgerBlock.TAKEN) != 0;
            Columns columns = writes.get(write);
            LedgerRow.Values values = taken
                    ? columns.values(outcome)
                    : LedgerRow.Values.none((flags & LedgerBlock.KEYED) == 0 ? null : key());
            return new LedgerRow(
                    number, position, group, write, source, line, outcome, intent, passed, taken, note, values);
        }

        private @Nullable List<Object> key() {
            return keys.cell(CellCodec.ANY) instanceof List<?> parts ? List.copyOf(parts) : null;
        }
    }

    /** The columns of a write. */
    private static final class Columns {
        private final Cells cells;
        private final ByteSource ids;
        private final ByteSource marks;
        private final ByteSource masks;
        private final List<ByteSource> after = new ArrayList<>();
        private final List<ByteSource> before = new ArrayList<>();

        Columns(Cells cells, ByteSource in) {
            this.cells = cells;
            ids = in.part();
            marks = in.part();
            masks = in.part();
            for (int field = 0; field < cells.fields().size(); field++) {
                after.add(in.part());
                before.add(in.part());
            }
        }

        LedgerRow.Values values(Outcome outcome) {
            int fields = cells.fields().size();
            boolean updated = outcome == Outcome.UPDATED;
            boolean deleted = outcome == Outcome.DELETED;
            BitSet changed = new BitSet(fields);
            if (updated) {
                changed = mask(fields);
            } else if (outcome.isNew()) {
                changed.set(0, fields);
            }
            @Nullable Object[] afterwards = new Object[fields];
            @Nullable Object[] old = new Object[fields];
            @Nullable Object[] key = new Object[cells.key().size()];
            for (int field = 0; field < fields; field++) {
                CellCodec codec = cells.fields().get(field);
                int part = cells.key().indexOf(field);
                if (changed.get(field) || part >= 0) {
                    Object value = after.get(field).cell(codec);
                    afterwards[field] = changed.get(field) ? value : null;
                    if (part >= 0) {
                        key[part] = value;
                    }
                }
                if (deleted || updated && changed.get(field)) {
                    old[field] = before.get(field).cell(codec);
                }
            }
            Object mark = updated || deleted ? marks.cell(cells.mark()) : null;
            Object id = outcome == Outcome.REJECTED ? null : id();
            return new LedgerRow.Values(Arrays.asList(key), id, mark, changed, old, afterwards);
        }

        private BitSet mask(int fields) {
            long[] words = new long[(fields + Long.SIZE - 1) / Long.SIZE];
            for (int i = 0; i < words.length; i++) {
                words[i] = masks.varint();
            }
            return BitSet.valueOf(words);
        }

        private @Nullable Object id() {
            List<@Nullable Object> parts = new ArrayList<>();
            cells.id().forEach(codec -> parts.add(ids.cell(codec)));
            return parts.size() == 1 ? parts.getFirst() : parts.contains(null) ? null : parts;
        }
    }
}
