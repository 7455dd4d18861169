package dev.nachlauf.connectors.format;

import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows;
import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import dev.nachlauf.core.system.SourceBytes;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Files with notes beside their rows. */
public final class Noted {
    private Noted() {}

    /** @param notes by sheet and line, as in {@code South 3}; the line alone where files have no sheets */
    public static byte[] copy(
            NotesRows format,
            String name,
            byte[] file,
            Map<String, String> options,
            List<String> heads,
            Map<String, List<String>> notes)
            throws IOException {
        Path path = Files.createTempFile("noted", name);
        try {
            Files.write(path, file);
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            format.copy(SourceBytes.of(name, path), FormatOptions.of(options), heads, sheet -> part(sheet, notes), out);
            return out.toByteArray();
        } finally {
            Files.delete(path);
        }
    }

    private static NotesOfPart part(String sheet, Map<String, List<String>> notes) {
        return new NotesOfPart() {
            @Override
            public @Nullable List<String> at(long line) {
                return notes.get((sheet + " " + line).strip());
            }

            @Override
            public void close() {
                // nothing is open
            }
        };
    }
}
