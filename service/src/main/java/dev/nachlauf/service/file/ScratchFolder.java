package dev.nachlauf.service.file;

import java.io.IOException;
import java.nio.file.Path;
import org.springframework.util.FileSystemUtils;

/** A folder for the time of one look, removed with everything in it. */
public final class ScratchFolder implements AutoCloseable {
    private final Path path;

    ScratchFolder(Path path) {
        this.path = path;
    }

    public Path path() {
        return path;
    }

    @Override
    public void close() {
        try {
            FileSystemUtils.deleteRecursively(path);
        } catch (IOException e) {
            // it is removed as one that was left behind
        }
    }
}
