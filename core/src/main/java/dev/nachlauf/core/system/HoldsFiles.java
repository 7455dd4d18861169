package dev.nachlauf.core.system;

import java.io.InputStream;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** A system that holds files. */
public interface HoldsFiles extends OpenSystem {
    /** The files whose name matches a pattern with {@code *} and {@code ?}, by name. */
    List<FoundFile> find(String pattern);

    /** The bytes of a file that was found. */
    InputStream open(FoundFile file);

    /** How long a file must have lain untouched before it is taken: a younger one may still be written. */
    Duration quiet();

    /**
     * A file.
     *
     * @param size in bytes; -1 where the place doesn't say
     * @param version what the place itself says about the state of the content; empty where it says nothing
     */
    record FoundFile(String name, long size, Instant modified, String version) {
        public FoundFile(String name, long size, Instant modified) {
            this(name, size, modified, "");
        }
    }

    /** A place that can tell that a file is still the one that was fetched before. */
    interface Conditional extends HoldsFiles {
        /** The bytes; empty where the content is still that of {@code version}. */
        Optional<InputStream> openUnless(FoundFile file, String version);
    }
}
