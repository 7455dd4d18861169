package dev.nachlauf.core.run;

import dev.nachlauf.core.record.ByteHash;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.ByteSource;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * In which batches of a run a record was changed: 28 bits of each key and the number of its batch, sorted and cut into
 * blocks, so that one block answers for a run. The rows themselves are found in the batch, whose lines are compared exactly.
 * A million keys take about three megabytes.
 */
public final class KeyIndex {
    /** So many keys are sorted at once; a larger run has several segments. */
    public static final int SEGMENT = 1 << 20;

    /** About 2,500 bytes, so that three blocks fill a page of a database. */
    private static final int BLOCK = 800;

    private static final int BITS = 28;
    private static final Pattern MARKS = Pattern.compile("\\p{M}+");

    private long[] entries = new long[1 << 10];
    private int count;
    private final Consumer<Segment> full;

    /** @param full takes each segment as soon as it is complete */
    public KeyIndex(Consumer<Segment> full) {
        this.full = full;
    }

    /**
     * Part of an index.
     *
     * @param keys how many it holds
     * @param blocks in the order of their first hash
     */
    public record Segment(int keys, List<Block> blocks) {
        public Segment {
            blocks = List.copyOf(blocks);
        }
    }

    /**
     * Some keys of a segment; all with one hash are in one block.
     *
     * @param firstHash the least hash, from 0 to 2²⁸ − 1
     */
    public record Block(long firstHash, byte[] bytes) {
        /** The batches in which keys with this hash occur. */
        public SortedSet<Integer> batches(long hash) {
            SortedSet<Integer> batches = new TreeSet<>();
            ByteSource in = new ByteSource(bytes, 0, bytes.length);
            int keys = in.count();
            ByteSource hashes = in.part();
            ByteSource numbers = in.part();
            long last = firstHash;
            for (int i = 0; i < keys && last <= hash; i++) {
                last += hashes.varint();
                int batch = (int) numbers.varint();
                if (last == hash) {
                    batches.add(batch);
                }
            }
            return batches;
        }
    }

    /** Adds a key that a batch has changed the record of. */
    public void add(List<Object> key, int batch) {
        if (count == entries.length) {
            entries = Arrays.copyOf(entries, count * 2);
        }
        entries[count++] = hash(key) << Integer.SIZE | batch;
        if (count == SEGMENT) {
            finish();
        }
    }

    /** Hands the last segment on, if there is one. */
    public void finish() {
        if (count == 0) {
            return;
        }
        Arrays.sort(entries, 0, count);
        List<Block> blocks = new ArrayList<>();
        int from = 0;
        while (from < count) {
            int to = Math.min(from + BLOCK, count);
            while (to < count && hashAt(to) == hashAt(to - 1)) {
                to++;
            }
            blocks.add(block(from, to));
            from = to;
        }
        full.accept(new Segment(count, blocks));
        count = 0;
    }

    private long hashAt(int entry) {
        return entries[entry] >>> Integer.SIZE;
    }

    private Block block(int from, int to) {
        ByteSink hashes = new ByteSink(BLOCK * 2);
        ByteSink batches = new ByteSink(BLOCK);
        int keys = 0;
        long last = hashAt(from);
        for (int i = from; i < to; i++) {
            if (i > from && entries[i] == entries[i - 1]) {
                continue;
            }
            hashes.varint(hashAt(i) - last);
            batches.varint((int) entries[i]);
            last = hashAt(i);
            keys++;
        }
        ByteSink block = new ByteSink(hashes.size() + batches.size() + 16);
        block.varint(keys);
        block.varint(hashes.size());
        block.range(hashes.array(), 0, hashes.size());
        block.varint(batches.size());
        block.range(batches.array(), 0, batches.size());
        return new Block(hashAt(from), block.toArray());
    }

    /**
     * The hash of a key, from 0 to 2²⁸ − 1. Keys that some target could hold for equal have the same one: case, accents,
     * blanks at the end and the zeros of decimals make no difference.
     */
    public static long hash(List<?> key) {
        int hash = ByteHash.start();
        for (Object part : key) {
            byte[] bytes = plain(part).getBytes(StandardCharsets.UTF_8);
            hash = ByteHash.more(hash, bytes, 0, bytes.length);
            hash = ByteHash.more(hash, new byte[] {0}, 0, 1);
        }
        return ByteHash.spread(hash) >>> (Integer.SIZE - BITS);
    }

    private static String plain(@Nullable Object part) {
        String text = part instanceof BigDecimal number
                ? number.stripTrailingZeros().toPlainString()
                : String.valueOf(Values.text(part));
        return MARKS.matcher(Normalizer.normalize(text, Normalizer.Form.NFKD))
                .replaceAll("")
                .toLowerCase(Locale.ROOT)
                .stripTrailing();
    }
}
