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
    private @Nullable Iterator<@Nullable Object[]> next;

    /** A row's cells from the first column on; null for those that stay. */
    public Edited row(String sheet, long line, @Nullable Object... cells) {
        BitSet changed = new BitSet();
        for (int i = 0; i < cells.length; i++) {
            changed.set(i, cells[i] != null);
        }
        edits.put(sheet + " " + line, new Edit(false, changed, cells));
        return this;
    }

    public Edited gone(String sheet, long line) {
        edits.put(sheet + " " + line, new Edit(true, new BitSet(), new Object[0]));
        return this;
    }

    public Edited added(@Nullable Object... cells) {
        added.add(cells);
        return this;
    }

    @Override
    public @Nullable Edit at(String sheet, long line) {
        return edits.get(sheet + " " + line);
    }

    @Override
    public @Nullable Object @Nullable [] next() {
        if (next == null) {
            next = added.iterator();
        }
        return next.hasNext() ? next.next() : null;
    }

    /** The file with these edits. */
    public byte[] copy(EditsRows format, String name, byte[] file, Map<String, String> options) throws IOException {
        Path path = Files.createTempFile("edited", name);
        try {
            Files.write(path, file);
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            format.copy(SourceBytes.of(name, path), FormatOptions.of(options), this, out);
            return out.toByteArray();
        } finally {
            Files.delete(path);
        }
    }
}
