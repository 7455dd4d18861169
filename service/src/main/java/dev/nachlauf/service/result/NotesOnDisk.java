package dev.nachlauf.service.result;

import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Texts beside the rows of a source, a file for each of its parts, for sources may order their parts as they like. */
final class NotesOnDisk implements AutoCloseable {
    private final Path scratch;
    private final int columns;
    private final Map<String, Path> parts = new HashMap<>();
    private String current = "";
    private @Nullable DataOutputStream out;

    /** @param columns how many texts each row has */
    NotesOnDisk(Path scratch, int columns) {
        this.scratch = scratch;
        this.columns = columns;
    }

    /** Adds the texts of a row; within its part, rows come in order. */
    void add(String part, long line, List<String> texts) throws IOException {
        DataOutputStream to = out;
        if (to == null || !part.equals(current)) {
            close();
            to = new DataOutputStream(new BufferedOutputStream(
                    Files.newOutputStream(file(part), StandardOpenOption.CREATE, StandardOpenOption.APPEND)));
            out = to;
            current = part;
        }
        to.writeLong(line);
        for (String text : texts) {
            byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
            to.writeInt(bytes.length);
            to.write(bytes);
        }
    }

    private Path file(String part) {
        return parts.computeIfAbsent(part, name -> scratch.resolve("notes-" + parts.size()));
    }

    /** What was noted beside the rows of a part; nothing more is added from now on. */
    NotesOfPart part(String part) {
        try {
            close();
            InputOfPart in = new InputOfPart(parts.get(part), columns);
            in.advance();
            return in;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void close() throws IOException {
        if (out != null) {
            out.close();
            out = null;
        }
    }

    private static final class InputOfPart implements NotesOfPart {
        private final DataInputStream in;
        private final int columns;
        private long line;

        /** @param file null where nothing was noted */
        InputOfPart(@Nullable Path file, int columns) throws IOException {
            this.in = new DataInputStream(
                    file == null ? InputStream.nullInputStream() : new BufferedInputStream(Files.newInputStream(file)));
            this.columns = columns;
        }

        void advance() throws IOException {
            try {
                line = in.readLong();
            } catch (EOFException e) {
                line = Long.MAX_VALUE;
            }
        }

        @Override
        public @Nullable List<String> at(long wanted) {
            try {
                while (line < wanted) {
                    texts();
                }
                return line == wanted ? texts() : null;
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        private List<String> texts() throws IOException {
            List<String> texts = new ArrayList<>();
            for (int i = 0; i < columns; i++) {
                texts.add(new String(in.readNBytes(in.readInt()), StandardCharsets.UTF_8));
            }
            advance();
            return texts;
        }

        @Override
        public void close() {
            try {
                in.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
