package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** A packed file, which is unpacked to the scratch folder only for formats that have to jump about in it. */
final class Member implements SourceBytes {
    private final String id;
    private final String file;
    private final Opening opening;
    private final Path scratch;

    /** Opens the unpacked bytes from their start. */
    @FunctionalInterface
    interface Opening {
        InputStream open() throws IOException;
    }

    /**
     * A member.
     *
     * @param id tells it from the others of its archive
     * @param file its name for people
     */
    Member(String id, String file, Opening opening, Path scratch) {
        this.id = id;
        this.file = file;
        this.opening = opening;
        this.scratch = scratch;
    }

    @Override
    public String id() {
        return id;
    }

    @Override
    public String file() {
        return file;
    }

    @Override
    public InputStream open() throws IOException {
        return opening.open();
    }

    @Override
    public Path path() throws IOException {
        Path unpacked = Files.createTempFile(scratch, "unpacked", null);
        try (InputStream in = open()) {
            Files.copy(in, unpacked, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        }
        return unpacked;
    }
}
