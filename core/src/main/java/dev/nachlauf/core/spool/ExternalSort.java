package dev.nachlauf.core.spool;

import com.github.luben.zstd.ZstdInputStream;
import com.github.luben.zstd.ZstdOutputStream;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.PriorityQueue;
import org.jspecify.annotations.Nullable;

/** Sorts entries by key (unsigned bytes), then number, in constant memory. */
public final class ExternalSort implements AutoCloseable {
    /** Bytes held in memory before a sorted piece is written. */
    public static final int BUFFER = 32 * 1024 * 1024;

    private static final int OVERHEAD = 64;
    /** Sorted pieces that are read at the same time. */
    static final int MOST_OPEN = 64;
    /** The level of compression of what spills: files that live for minutes are not worth more. */
    static final int FAST = 1;

    private static final byte[] NOTHING = {};

    /** One entry; {@code other} and {@code payload} travel with it and do not count for the order. */
    public record Entry(byte[] key, long number, long other, byte[] payload) {}

    private static final Comparator<Entry> ORDER = (a, b) -> {
        int byKey = Arrays.compareUnsigned(a.key, b.key);
        return byKey != 0 ? byKey : Long.compare(a.number, b.number);
    };

    private final Path scratch;
    private final int buffer;
    private final List<Path> pieces = new ArrayList<>();
    private final List<DataInputStream> open = new ArrayList<>();
    private List<Entry> entries = new ArrayList<>();
    private long held;

    /** A sort that writes its pieces into the folder {@code scratch}. */
    public ExternalSort(Path scratch) {
        this(scratch, BUFFER);
    }

    ExternalSort(Path scratch, int buffer) {
        this.scratch = scratch;
        this.buffer = buffer;
    }

    /** Adds an entry. */
    public void add(byte[] key, long number, long other) {
        add(key, number, other, NOTHING);
    }

    /** Adds an entry that carries bytes. */
    public void add(byte[] key, long number, long other, byte[] payload) {
        entries.add(new Entry(key, number, other, payload));
        held += key.length + payload.length + OVERHEAD;
        if (held > buffer) {
            spill();
        }
    }

    /** How many pieces were written to disk so far. */
    public int piecesOnDisk() {
        return pieces.size();
    }

    private void spill() {
        entries.sort(ORDER);
        pieces.add(write(entries.iterator(), entries.size()));
        entries = new ArrayList<>();
        held = 0;
    }

    private Path write(Iterator<Entry> sorted, long count) {
        try {
            Path piece = Files.createTempFile(scratch, "sorted", ".piece");
            try (DataOutputStream out = new DataOutputStream(
                    new BufferedOutputStream(new ZstdOutputStream(Files.newOutputStream(piece), FAST), 1 << 16))) {
                out.writeLong(count);
                while (sorted.hasNext()) {
                    Entry entry = sorted.next();
                    out.writeInt(entry.key.length);
                    out.write(entry.key);
                    out.writeLong(entry.number);
                    out.writeLong(entry.other);
                    out.writeInt(entry.payload.length);
                    out.write(entry.payload);
                }
            }
            return piece;
        } catch (IOException e) {
            throw Disk.failure(e, scratch);
        }
    }

    /** However large the source is, only so many files are open at once: pieces are made one in several rounds. */
    private void mergePieces() {
        while (pieces.size() > MOST_OPEN) {
            List<Path> some = List.copyOf(pieces.subList(0, MOST_OPEN));
            pieces.subList(0, MOST_OPEN).clear();
            List<Iterator<Entry>> parts = new ArrayList<>();
            long count = 0;
            for (Path piece : some) {
                Piece part = read(piece);
                count += part.left;
                parts.add(part);
            }
            pieces.add(write(merged(parts), count));
            closeAll(open);
            delete(some);
        }
    }

    /** All entries in order; nothing may be added afterwards. */
    public Iterator<Entry> sorted() {
        entries.sort(ORDER);
        if (pieces.isEmpty()) {
            return entries.iterator();
        }
        mergePieces();
        List<Iterator<Entry>> parts = new ArrayList<>(List.of(entries.iterator()));
        pieces.forEach(piece -> parts.add(read(piece)));
        return merged(parts);
    }

    private static Iterator<Entry> merged(List<Iterator<Entry>> parts) {
        PriorityQueue<Cursor> cursors = new PriorityQueue<>((a, b) -> ORDER.compare(a.current(), b.current()));
        parts.forEach(part -> push(cursors, part));
        return new Iterator<>() {
            @Override
            public boolean hasNext() {
                return !cursors.isEmpty();
            }

            @Override
            public Entry next() {
                Cursor least = cursors.poll();
                if (least == null) {
                    throw new NoSuchElementException();
                }
                Entry entry = least.current();
                push(cursors, least.rest());
                return entry;
            }
        };
    }

    private record Cursor(Entry current, Iterator<Entry> rest) {}

    private static void push(PriorityQueue<Cursor> cursors, Iterator<Entry> rest) {
        if (rest.hasNext()) {
            cursors.add(new Cursor(rest.next(), rest));
        }
    }

    private Piece read(Path piece) {
        try {
            DataInputStream in = new DataInputStream(
                    new BufferedInputStream(new ZstdInputStream(Files.newInputStream(piece)), 1 << 16));
            open.add(in);
            return new Piece(in, in.readLong());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The entries of a piece. */
    private static final class Piece implements Iterator<Entry> {
        private final DataInputStream in;
        private long left;

        Piece(DataInputStream in, long left) {
            this.in = in;
            this.left = left;
        }

        @Override
        public boolean hasNext() {
            return left > 0;
        }

        @Override
        public Entry next() {
            if (!hasNext()) {
                throw new NoSuchElementException();
            }
            try {
                left--;
                byte[] key = bytes(in);
                long number = in.readLong();
                long other = in.readLong();
                return new Entry(key, number, other, bytes(in));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    private static byte[] bytes(DataInputStream in) throws IOException {
        byte[] bytes = new byte[in.readInt()];
        in.readFully(bytes);
        return bytes;
    }

    /** Removes the pieces, and forgets what is in memory. */
    @Override
    public void close() {
        entries = List.of();
        closeAll(open);
        delete(pieces);
        pieces.clear();
    }

    private static void closeAll(List<DataInputStream> streams) {
        each(streams, DataInputStream::close);
        streams.clear();
    }

    private static void delete(List<Path> files) {
        each(files, Files::deleteIfExists);
    }

    /** Something that may fail for one, and is done for the others all the same. */
    private interface Closing<T> {
        void close(T one) throws IOException;
    }

    private static <T> void each(List<T> all, Closing<T> closing) {
        @Nullable IOException failure = null;
        for (T one : all) {
            try {
                closing.close(one);
            } catch (IOException e) {
                failure = e;
            }
        }
        if (failure != null) {
            throw new UncheckedIOException(failure);
        }
    }
}
