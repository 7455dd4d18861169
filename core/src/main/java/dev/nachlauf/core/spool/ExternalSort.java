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
        try {
            Path piece = Files.createTempFile(scratch, "sorted", ".piece");
            pieces.add(piece);
            try (DataOutputStream out = new DataOutputStream(
                    new ZstdOutputStream(new BufferedOutputStream(Files.newOutputStream(piece))))) {
                out.writeLong(entries.size());
                for (Entry entry : entries) {
                    out.writeInt(entry.key.length);
                    out.write(entry.key);
                    out.writeLong(entry.number);
                    out.writeLong(entry.other);
                    out.writeInt(entry.payload.length);
                    out.write(entry.payload);
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        entries = new ArrayList<>();
        held = 0;
    }

    /** All entries in order; nothing may be added afterwards. */
    public Iterator<Entry> sorted() {
        entries.sort(ORDER);
        if (pieces.isEmpty()) {
            return entries.iterator();
        }
        PriorityQueue<Cursor> cursors = new PriorityQueue<>((a, b) -> ORDER.compare(a.current(), b.current()));
        push(cursors, entries.iterator());
        for (Path piece : pieces) {
            push(cursors, read(piece));
        }
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

    private Iterator<Entry> read(Path piece) {
        try {
            DataInputStream in = new DataInputStream(
                    new BufferedInputStream(new ZstdInputStream(Files.newInputStream(piece)), 1 << 16));
            open.add(in);
            long size = in.readLong();
            return new Iterator<>() {
                private long left = size;

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
            };
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static byte[] bytes(DataInputStream in) throws IOException {
        byte[] bytes = new byte[in.readInt()];
        in.readFully(bytes);
        return bytes;
    }

    /** Removes the pieces. */
    @Override
    public void close() {
        @Nullable IOException failure = null;
        for (DataInputStream in : open) {
            try {
                in.close();
            } catch (IOException e) {
                failure = e;
            }
        }
        open.clear();
        for (Path piece : pieces) {
            try {
                Files.deleteIfExists(piece);
            } catch (IOException e) {
                failure = e;
            }
        }
        pieces.clear();
        if (failure != null) {
            throw new UncheckedIOException(failure);
        }
    }
}
