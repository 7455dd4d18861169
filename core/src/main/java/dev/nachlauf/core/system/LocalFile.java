package dev.nachlauf.core.system;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** A file on this machine. */
record LocalFile(String file, Path path) implements SourceBytes {
    @Override
    public InputStream open() throws IOException {
        return Files.newInputStream(path);
    }
}
