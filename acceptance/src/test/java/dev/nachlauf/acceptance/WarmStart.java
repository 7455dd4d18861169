package dev.nachlauf.acceptance;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * Lets processes start with the classes that an earlier one has loaded: the first that ends normally leaves an archive
 * behind, as the launch scripts have it.
 */
final class WarmStart {
    private static final Path ARCHIVES = folder();

    private WarmStart() {}

    private static Path folder() {
        try {
            return Files.createTempDirectory("nachlauf-archives");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** What the JVM of a program is told. */
    static List<String> of(String program) {
        return List.of(
                "-XX:+AutoCreateSharedArchive",
                "-XX:SharedArchiveFile=" + ARCHIVES.resolve(program + ".jsa"),
                "-Xshare:auto",
                "-Xlog:cds=off",
                "-Xlog:cds+dynamic=off");
    }
}
