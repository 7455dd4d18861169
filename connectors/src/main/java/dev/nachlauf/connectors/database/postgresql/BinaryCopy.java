package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import org.jspecify.annotations.Nullable;

/** Frames rows for the binary format of COPY. Its fields are the cells of {@link CellCodec}, so they go in as they are. */
final class BinaryCopy {
    private static final byte[] SIGNATURE = {
        'P', 'G', 'C', 'O', 'P', 'Y', '\n', (byte) 0xFF, '\r', '\n', 0, 0, 0, 0, 0, 0, 0, 0, 0
    };
    /** Bytes before the first row. */
    static final int HEADER = SIGNATURE.length;

    private final ByteSink out = new ByteSink(1 << 16);

    BinaryCopy() {
        out.bytes(SIGNATURE);
    }

    /** Starts a row. */
    void row(int fields) {
        out.int2(fields);
    }

    /** Ends the rows. */
    void end() {
        out.int2(-1);
    }

    byte[] array() {
        return out.array();
    }

    int size() {
        return out.size();
    }

    /** A field of four bytes that is no value of a row: row numbers. */
    void int4(int value) {
        out.int4(Integer.BYTES);
        out.int4(value);
    }

    /** A field of two bytes. */
    void int2(int value) {
        out.int4(Short.BYTES);
        out.int2(value);
    }

    /** A field that is null. */
    void nothing() {
        out.int4(CellCodec.NULL);
    }

    /** A text. */
    void text(@Nullable String text) {
        CellCodec.TEXT.write(text, out);
    }

    /** A value. */
    void value(@Nullable Object value, CellCodec codec) {
        codec.write(value, out);
    }

    /** Cells as they stand elsewhere, from one place up to another. */
    void cells(byte[] data, int from, int to) {
        out.range(data, from, to);
    }
}
