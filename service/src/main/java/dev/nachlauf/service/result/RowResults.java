package dev.nachlauf.service.result;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.spool.ExternalSort;
import dev.nachlauf.core.spool.ExternalSort.Entry;
import dev.nachlauf.service.result.RowResult.Line;
import dev.nachlauf.service.store.Json;
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
    private @Nullable Iterator<Entry> sorted;
    private @Nullable Entry next;

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

    /**
     * What became of a row; rows are asked for in order, and nothing may be added any more.
     *
     * @param row its number, from 1
     * @param otherwise what became of it where nothing was added
     */
    RowResult of(long row, String otherwise) {
        if (sorted == null) {
            sorted = sort.sorted();
            advance();
        }
        List<Line> lines = new ArrayList<>();
        Set<String> problems = new LinkedHashSet<>();
        for (Entry entry = next; entry != null && entry.number() <= row; entry = advance()) {
            if (entry.number() == row) {
                String text = new String(entry.payload(), StandardCharsets.UTF_8);
                if (entry.other() == LINE) {
                    lines.add(Json.read(text, Line.class));
                } else {
                    problems.addAll(Json.words(text));
                }
            }
        }
        return new RowResult(lines, problems, otherwise);
    }

    private @Nullable Entry advance() {
        next = sorted != null && sorted.hasNext() ? sorted.next() : null;
        return next;
    }

    @Override
    public void close() {
        sort.close();
    }
}
