package dev.nachlauf.core.system;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;

/** The bytes of a source file. */
public interface SourceBytes {
    /** Tells the file from others of its archive. */
    default String id() {
        return file();
    }

    /** The file's name, for messages and for what formulas call {@code source.file}. */
    String file();

    /** The bytes from the start, as often as wanted. */
    InputStream open() throws IOException;

    /** The same bytes as a local file, for formats that have to jump about in them. */
    Path path() throws IOException;

    /** A local file under its own or another name. */
    static SourceBytes of(String name, Path path) {
        return new LocalFile(name, path);
    }
}
