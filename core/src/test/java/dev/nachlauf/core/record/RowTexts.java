package dev.nachlauf.core.record;

import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** Rows of a text, made of their cells. */
public final class RowTexts {
    private RowTexts() {}

    /** A row of these cells; null for empty ones. */
    public static RowText of(@Nullable String... cells) {
        ByteSink data = new ByteSink(16);
        int[] bounds = new int[cells.length * 2];
        for (int column = 0; column < cells.length; column++) {
            bounds[column * 2] = data.size();
            data.bytes((cells[column] == null ? "" : cells[column]).getBytes(StandardCharsets.UTF_8));
            bounds[column * 2 + 1] = data.size();
            data.byte1((byte) ';');
        }
        return new RowText(data.toArray(), bounds);
    }
}
