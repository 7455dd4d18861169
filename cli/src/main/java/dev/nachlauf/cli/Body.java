package dev.nachlauf.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * What a call sends.
 *
 * @param type its media type; empty where nothing is sent
 * @param length in bytes; -1 where that isn't known before
 */
record Body(Optional<String> type, long length, Content content) {
    /** Nothing. */
    static final Body NONE = new Body(Optional.empty(), 0, to -> {});

    private static final String BYTES = "application/octet-stream";

    /** Writes itself. */
    interface Content {
        void writeTo(OutputStream to) throws IOException;
    }

    static Body text(String type, String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        return new Body(Optional.of(type), bytes.length, to -> to.write(bytes));
    }

    /** A file, which is streamed. */
    static Body file(Path file) throws IOException {
        if (!Files.isReadable(file)) {
            throw new AccessDeniedException(file.toString());
        }
        return new Body(Optional.of(BYTES), Files.size(file), to -> Files.copy(file, to));
    }

    /** What comes from elsewhere, to its end. */
    static Body stream(Supplier<InputStream> from) {
        return new Body(Optional.of(BYTES), -1, to -> from.get().transferTo(to));
    }
}
