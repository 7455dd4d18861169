package dev.nachlauf.core.spool;

import com.github.luben.zstd.Zstd;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;

/**
 * Rows that are found by key, on disk: sorted into packed blocks, of which only the last keys are in memory, one for
 * some hundred rows. Add rows, then find. For one thread.
 */
public final class KeyedRows implements AutoCloseable {
    /** Bytes of a block before it is packed. */
    static final int BLOCK = 64 * 1024;

    private final Path file;
    private final ExternalSort sort;
    private final int block;
    private final List<Block> blocks = new ArrayList<>();
    private final FileChannel channel;
    private int unpacked = -1;
    private List<Row> rows = List.of();

    private record Block(byte[] lastKey, long start, int packed, int size) {}

    private record Row(byte[] key, byte[] payload) {}

    /**
     * What stands under a key.
     *
     * @param count 0, 1, or 2 for several
     * @param first the first row that was added under the key; empty where there is none
     */
    public record Match(int count, byte[] first) {
        static final Match NONE = new Match(0, new byte[0]);
    }

    /** Rows that are kept in the folder {@code scratch}. */
    public KeyedRows(Path scratch) {
        this(scratch, ExternalSort.BUFFER, BLOCK);
    }

    KeyedRows(Path scratch, int buffer, int block) {
        this.sort = new ExternalSort(scratch, buffer);
        this.block = block;
        try {
            file = Files.createTempFile(scratch, "keyed", ".rows");
            channel = FileChannel.open(file, StandardOpenOption.READ, StandardOpenOption.WRITE);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Adds a row under a key. */
    public void add(byte[] key, long number, byte[] payload) {
        sort.add(key, number, 0, payload);
    }

    /** Ends the adding. */
    public void finish() {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(block * 2);
        DataOutputStream out = new DataOutputStream(bytes);
        byte[] lastKey = {};
        try {
            for (Iterator<ExternalSort.Entry> sorted = sort.sorted(); sorted.hasNext(); ) {
                ExternalSort.Entry entry = sorted.next();
                out.writeInt(entry.key().length);
                out.write(entry.key());
                out.writeInt(entry.payload().length);
                out.write(entry.payload());
                lastKey = entry.key();
                if (bytes.size() >= block) {
                    write(lastKey, bytes);
                }
            }
            if (bytes.size() > 0) {
                write(lastKey, bytes);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        sort.close();
    }

    private void write(byte[] lastKey, ByteArrayOutputStream bytes) throws IOException {
        byte[] packed = Zstd.compress(bytes.toByteArray(), ExternalSort.FAST);
        long start = channel.size();
        ByteBuffer rest = ByteBuffer.wrap(packed);
        while (rest.hasRemaining()) {
            channel.write(rest, start + rest.position());
        }
        blocks.add(new Block(lastKey, start, packed.length, bytes.size()));
        bytes.reset();
    }

    /** One answer per key, in order. Keys are looked for in their order on disk, so a block is unpacked once a call. */
    public List<Match> find(List<byte[]> keys) {
        List<Integer> order = new ArrayList<>();
        for (int i = 0; i < keys.size(); i++) {
            order.add(i);
        }
        order.sort((a, b) -> Arrays.compareUnsigned(keys.get(a), keys.get(b)));
        List<Match> matches = new ArrayList<>(Collections.nCopies(keys.size(), Match.NONE));
        order.forEach(index -> matches.set(index, find(keys.get(index))));
        return matches;
    }

    private Match find(byte[] key) {
        Match found = Match.NONE;
        for (int at = firstBlock(key); at < blocks.size(); at++) {
            for (Row row : rows(at)) {
                int order = Arrays.compareUnsigned(row.key, key);
                if (order > 0) {
                    return found;
                }
                if (order == 0 && found.count > 0) {
                    return new Match(2, found.first);
                }
                found = order == 0 ? new Match(1, row.payload) : found;
            }
        }
        return found;
    }

    /** The first block that ends with this key or one behind it. */
    private int firstBlock(byte[] key) {
        int low = 0;
        int high = blocks.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (Arrays.compareUnsigned(blocks.get(middle).lastKey, key) < 0) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    private List<Row> rows(int index) {
        if (index == unpacked) {
            return rows;
        }
        Block at = blocks.get(index);
        ByteBuffer packed = ByteBuffer.allocate(at.packed);
        try {
            while (packed.hasRemaining() && channel.read(packed, at.start + packed.position()) >= 0) {
                // a read may bring less than was asked for
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        ByteBuffer bytes = ByteBuffer.wrap(Zstd.decompress(packed.array(), at.size));
        rows = new ArrayList<>();
        while (bytes.hasRemaining()) {
            rows.add(new Row(next(bytes), next(bytes)));
        }
        unpacked = index;
        return rows;
    }

    private static byte[] next(ByteBuffer bytes) {
        byte[] part = new byte[bytes.getInt()];
        bytes.get(part);
        return part;
    }

    /** Removes what is on disk. */
    @Override
    public void close() {
        sort.close();
        try {
            channel.close();
            Files.deleteIfExists(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
