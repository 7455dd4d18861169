package dev.nachlauf.core.system;

import java.io.InputStream;
import java.time.Instant;
import java.util.List;

/** A system that holds files. */
public interface HoldsFiles extends OpenSystem {
    /** The files whose name matches a pattern with {@code *} and {@code ?}, by name. */
    List<FoundFile> find(String pattern);

    /** The bytes of a file that was found. */
    InputStream open(FoundFile file);

    /** A file; size in bytes. */
    record FoundFile(String name, long size, Instant modified) {}
}
