package dev.nachlauf.service.result;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.spool.ExternalSort;
import dev.nachlauf.core.spool.ExternalSort.Entry;
import dev.nachlauf.service.result.RowResult.Line;
import dev.nachlauf.service.store.Json;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What became of the rows of a source, brought into the order of the source in constant memory. */
final class RowResults implements AutoCloseable {
    private static final byte LINE = 0;
    private static final byte PROBLEMS = 1;

    private final ExternalSort sort;

    RowResults(Path scratch) {
        this.sort = new ExternalSort(scratch);
    }

    /** Adds a line of the ledger; one that no row of the source stands behind is left out. */
    void add(LedgerRowView row) {
        add(row.row(), LINE, Line.of(row));
    }

    /** Adds a reject. */
    void add(RejectView reject) {
        add(reject.row(), PROBLEMS, List.copyOf(RowResult.problems(reject)));
    }

    private void add(long row, byte kind, Object what) {
        if (row > 0) {
            byte[] key =
                    ByteBuffer.allocate(Long.BYTES + 1).putLong(row).put(kind).array();
            sort.add(key, row, kind, Json.write(what).getBytes(StandardCharsets.UTF_8));
        }
    }

    /** Takes the rows in order. */
    interface Use {
        /** @param row its number, from 1 */
        void of(long row, RowResult result) throws IOException;
    }

    /** Gives every row once; nothing may be added afterwards. */
    void each(Use use) throws IOException {
        Iterator<Entry> entries = sort.sorted();
        Entry entry = next(entries);
        while (entry != null) {
            long row = entry.number();
            List<Line> lines = new ArrayList<>();
            Set<String> problems = new LinkedHashSet<>();
            while (entry != null && entry.number() == row) {
                String text = new String(entry.payload(), StandardCharsets.UTF_8);
                if (entry.other() == LINE) {
                    lines.add(Json.read(text, Line.class));
                } else {
                    problems.addAll(Json.words(text));
                }
                entry = next(entries);
            }
            if (!lines.isEmpty()) {
                use.of(row, new RowResult(lines, problems));
            }
        }
    }

    private static @Nullable Entry next(Iterator<Entry> entries) {
        return entries.hasNext() ? entries.next() : null;
    }

    @Override
    public void close() {
        sort.close();
    }
}
