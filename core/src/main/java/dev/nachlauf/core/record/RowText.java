package dev.nachlauf.core.record;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** A row of a text as it stands there, in UTF-8, and where its cells are. What nobody looks at stays bytes on its whole way. */
public final class RowText {
    /** So many bytes are taken for as many characters, though there may be fewer. */
    private static final int SMALL = 1 << 16;

    private final byte[] data;
    private final int[] bounds;

    /**
     * A row.
     *
     * @param data the cells, and what stands between them
     * @param bounds where each cell begins, and where it ends; an empty one is null
     */
    public RowText(byte[] data, int[] bounds) {
        this.data = data;
        this.bounds = bounds;
    }

    /** How many cells there are. */
    public int width() {
        return bounds.length / 2;
    }

    /** A cell as text; null where it is empty. */
    public @Nullable String text(int column) {
        int from = bounds[column * 2];
        int to = bounds[column * 2 + 1];
        return from == to ? null : new String(data, from, to - from, StandardCharsets.UTF_8);
    }

    /** A cell as it is; null where it is empty. */
    public @Nullable TextCell cell(int column) {
        int from = bounds[column * 2];
        int to = bounds[column * 2 + 1];
        return from == to ? null : new TextCell(data, from, to);
    }

    /** About how many characters there are; of a long row it is no more than there are, but for one for each cell. */
    long characters() {
        if (data.length <= SMALL) {
            return data.length;
        }
        long sum = width();
        for (int column = 0; column < width(); column++) {
            String text = text(column);
            sum += text == null ? 0 : text.length();
        }
        return sum;
    }

    /** Adds the row, to be read again by {@link #read}. */
    public void write(ByteSink out) {
        out.int4(data.length);
        out.bytes(data);
        out.int4(bounds.length);
        for (int bound : bounds) {
            out.int4(bound);
        }
    }

    /** The row that was written here. */
    public static RowText read(ByteBuffer in) {
        byte[] data = new byte[in.getInt()];
        in.get(data);
        int[] bounds = new int[in.getInt()];
        for (int i = 0; i < bounds.length; i++) {
            bounds[i] = in.getInt();
        }
        return new RowText(data, bounds);
    }

    byte[] data() {
        return data;
    }

    int[] bounds() {
        return bounds;
    }
}
