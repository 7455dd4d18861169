package dev.nachlauf.core.profile;

import dev.nachlauf.core.profile.KeyFigures.Repeat;
import dev.nachlauf.core.spool.ExternalSort;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.PriorityQueue;
import org.jspecify.annotations.Nullable;

/** Gathers the keys of all rows, sorted on disk where they are many. */
final class KeyTally implements AutoCloseable {
    private static final String BETWEEN = "\u001f";
    private static final int EXAMPLES = 5;
    private static final int ROWS_OF_EXAMPLE = 4;

    private final ExternalSort keys;
    private long filled;

    KeyTally(Path scratch) {
        this.keys = new ExternalSort(scratch);
    }

    /** Notes the key of a row; parts are null where they are blank. */
    void add(@Nullable String[] parts, long row) {
        for (String part : parts) {
            if (part == null) {
                return;
            }
        }
        filled++;
        keys.add(String.join(BETWEEN, parts).getBytes(StandardCharsets.UTF_8), row, 0);
    }

    /** What is done with every different key; its parts are texts. */
    @FunctionalInterface
    interface Visitor {
        void key(String[] parts);
    }

    /** Goes through the keys in order, each once. */
    KeyFigures figures(List<String> fields, Visitor visitor) {
        PriorityQueue<Repeat> worst = new PriorityQueue<>(Comparator.comparingLong(Repeat::count));
        long distinct = 0;
        long repeated = 0;
        byte[] current = null;
        long count = 0;
        List<Long> rows = new ArrayList<>();
        Iterator<ExternalSort.Entry> sorted = keys.sorted();
        while (true) {
            ExternalSort.Entry entry = sorted.hasNext() ? sorted.next() : null;
            if (current != null && (entry == null || !Arrays.equals(current, entry.key()))) {
                distinct++;
                visitor.key(parts(current));
                if (count > 1) {
                    repeated += count;
                    worst.add(new Repeat(String.join(" · ", parts(current)), count, List.copyOf(rows)));
                    if (worst.size() > EXAMPLES) {
                        worst.poll();
                    }
                }
            }
            if (entry == null) {
                break;
            }
            if (!Arrays.equals(current, entry.key())) {
                current = entry.key();
                count = 0;
                rows.clear();
            }
            count++;
            if (rows.size() < ROWS_OF_EXAMPLE) {
                rows.add(entry.number());
            }
        }
        List<Repeat> examples = new ArrayList<>(worst);
        examples.sort(Comparator.comparingLong(Repeat::count).reversed().thenComparing(Repeat::key));
        return new KeyFigures(fields, filled, distinct, repeated, examples);
    }

    private static String[] parts(byte[] key) {
        return new String(key, StandardCharsets.UTF_8).split(BETWEEN, -1);
    }

    @Override
    public void close() {
        keys.close();
    }
}
