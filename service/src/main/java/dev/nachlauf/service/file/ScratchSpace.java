package dev.nachlauf.service.file;

import dev.nachlauf.core.spool.Disk;
import dev.nachlauf.core.spool.SharedFolder;
import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.util.FileSystemUtils;

/** Room for the time of one look, in the installation's own folder: what a killed process leaves there is found again. */
@Component
public class ScratchSpace {
    private static final Logger LOG = LoggerFactory.getLogger(ScratchSpace.class);
    /** No look takes so long; what is older was left behind. */
    public static final Duration LEFT_BEHIND = Duration.ofDays(1);

    private final Path folder;
    private final Clock clock;

    ScratchSpace(NachlaufSettings settings, Clock clock) {
        this.folder = settings.home().toAbsolutePath().resolve("scratch").resolve("looks");
        this.clock = clock;
        removeLeftBehind();
    }

    /** A new folder; to be closed, which removes it. */
    public ScratchFolder create() {
        try {
            return new ScratchFolder(Files.createTempDirectory(Files.createDirectories(folder), "look"));
        } catch (IOException e) {
            throw Disk.failure(e, folder);
        }
    }

    /** Removes what a process that was killed left behind; the answer is how many folders. */
    public int removeLeftBehind() {
        if (!Files.isDirectory(folder)) {
            return 0;
        }
        Instant before = clock.instant().minus(LEFT_BEHIND);
        int removed = 0;
        try {
            for (SharedFolder.Entry entry : SharedFolder.entries(folder)) {
                boolean old = entry.attributes().lastModifiedTime().toInstant().isBefore(before);
                removed += old && FileSystemUtils.deleteRecursively(entry.path()) ? 1 : 0;
            }
        } catch (IOException e) {
            LOG.warn("scratch space could not be tidied: {}", e.toString());
        }
        return removed;
    }

    /**
     * What is in it now.
     *
     * @param bytes of all files in it
     */
    public record Use(long folders, long bytes) {}

    /** What is in it now. */
    public Use use() {
        if (!Files.isDirectory(folder)) {
            return new Use(0, 0);
        }
        try {
            long bytes = SharedFolder.filesBelow(folder).stream()
                    .mapToLong(file -> file.attributes().size())
                    .sum();
            return new Use(SharedFolder.entries(folder).size(), bytes);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
