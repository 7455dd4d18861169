package dev.nachlauf.service.source;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.springframework.util.FileSystemUtils;

/** A folder for the time of one look, removed with everything in it. */
public final class ScratchFolder implements AutoCloseable {
    private final Path path;

    private ScratchFolder(Path path) {
        this.path = path;
    }

    /** A new folder. */
    public static ScratchFolder create() {
        try {
            return new ScratchFolder(Files.createTempDirectory("nachlauf-look"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public Path path() {
        return path;
    }

    @Override
    public void close() {
        try {
            FileSystemUtils.deleteRecursively(path);
        } catch (IOException e) {
            // the system empties its temporary folder
        }
    }
}
