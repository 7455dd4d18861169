package dev.nachlauf.core.record;

import com.github.luben.zstd.Zstd;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Blocks of rows as bytes: a version byte, the sizes, then column after column (equal things side by side compress
 * well), packed with zstd level 1. A row may hold values of every {@link dev.nachlauf.core.value.Kind}, null, and
 * lists of them.
 */
public final class RowCodec {
    /** The first byte of every block; a reader refuses versions it does not know. */
    public static final byte VERSION = 1;

    private static final int LEVEL = 1;
    private static final int LARGEST_BLOCK = 1 << 30;
    private static final int HEADER = 1 + Integer.BYTES;

    private RowCodec() {}

    /** The block of these rows, all of which have {@code width} values. */
    public static byte[] encode(List<@Nullable Object[]> rows, int width) {
        ByteSink out = new ByteSink(rows.size() * width * 2 + 64);
        out.int4(rows.size());
        out.int4(width);
        for (int column = 0; column < width; column++) {
            for (Object[] row : rows) {
                ValueCodec.write(out, row[column]);
            }
        }
        if (out.size() > LARGEST_BLOCK) {
            throw new IllegalArgumentException("a row block of " + out.size() + " bytes could not be read again");
        }
        byte[] packed = Zstd.compress(out.toArray(), LEVEL);
        return ByteBuffer.allocate(HEADER + packed.length)
                .put(VERSION)
                .putInt(out.size())
                .put(packed)
                .array();
    }

    /** The rows of a block. */
    public static List<@Nullable Object[]> decode(byte[] block) {
        ByteBuffer head = ByteBuffer.wrap(block);
        byte version = head.get();
        if (version != VERSION) {
            throw new IllegalArgumentException(
                    "a row block of version " + version + " can't be read; known is " + VERSION);
        }
        int size = head.getInt();
        if (size < 0 || size > LARGEST_BLOCK) {
            throw new IllegalArgumentException("a row block states an impossible size: " + size);
        }
        byte[] packed = new byte[head.remaining()];
        head.get(packed);
        if (Zstd.getFrameContentSize(packed) != size) {
            throw new IllegalArgumentException("a row block is damaged: it states two sizes");
        }
        ByteBuffer in = ByteBuffer.wrap(Zstd.decompress(packed, size));
        int rows = in.getInt();
        int width = in.getInt();
        if (rows < 0 || width < 0 || (long) rows * width > in.remaining()) {
            throw new IllegalArgumentException("a row block is damaged: it holds fewer values than it states");
        }
        List<@Nullable Object[]> out = new ArrayList<>(rows);
        for (int i = 0; i < rows; i++) {
            out.add(new Object[width]);
        }
        for (int column = 0; column < width; column++) {
            for (int i = 0; i < rows; i++) {
                out.get(i)[column] = ValueCodec.read(in);
            }
        }
        return out;
    }
}
