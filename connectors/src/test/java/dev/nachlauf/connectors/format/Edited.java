package dev.nachlauf.connectors.format;

import dev.nachlauf.core.system.EditsRows;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceBytes;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Files with edits, which are said by line. */
public final class Edited implements RowEdits {
    private final Map<String, Edit> edits = new HashMap<>();
    private final List<@Nullable Object[]> added = new ArrayList<>();
    private Iterator<@Nullable Object[]> next = added.iterator();

    /** A row's cells from the first column on; null for those that stay. */
    public Edited row(String sheet, long line, @Nullable Object... cells) {
        return changed(sheet + " " + line + " ", cells);
    }

    /** The same for a record that its path tells from others. */
    public Edited record(long line, String path, @Nullable Object... cells) {
        return changed(" " + line + " " + path, cells);
    }

    private Edited changed(String at, @Nullable Object... cells) {
        BitSet changed = new BitSet();
        for (int i = 0; i < cells.length; i++) {
            changed.set(i, cells[i] != null);
        }
        edits.put(at, new Edit(false, changed, cells));
        return this;
    }

    public Edited gone(String sheet, long line) {
        return gone(sheet, line, "");
    }

    public Edited gone(String sheet, long line, String path) {
        edits.put(sheet + " " + line + " " + path, new Edit(true, new BitSet(), new Object[0]));
        return this;
    }

    public Edited added(@Nullable Object... cells) {
        added.add(cells);
        return this;
    }

    @Override
    public @Nullable Edit at(String sheet, long line, String path) {
        return edits.get(sheet + " " + line + " " + path);
    }

    @Override
    public @Nullable Object @Nullable [] next() {
        return next.hasNext() ? next.next() : null;
    }

    /** The file with these edits. */
    public byte[] copy(EditsRows format, String name, byte[] file, Map<String, String> options) throws IOException {
        Path path = Files.createTempFile("edited", name);
        try {
            Files.write(path, file);
            next = added.iterator();
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            format.requireEditable(name, FormatOptions.of(options));
            format.copy(SourceBytes.of(name, path), FormatOptions.of(options), this, out);
            return out.toByteArray();
        } finally {
            Files.delete(path);
        }
    }
}
