package dev.nachlauf.service.run;

import dev.nachlauf.core.spool.Disk;
import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.util.FileSystemUtils;

/**
 * A folder for each attempt of each run that is under way. What the steps made of the rows stays in the folder of the
 * attempt that made it, until the run has ended. An attempt touches no folder of a later one: it may have slept, and be
 * the last to know that it was taken over.
 */
@Component
class RunScratch {
    private static final String SHAPED = "shaped-rows";
    private static final String EPOCH = "attempt-";

    private final NachlaufSettings settings;

    RunScratch(NachlaufSettings settings) {
        this.settings = settings;
    }

    private Path folder(long run) {
        return settings.home().resolve("scratch").resolve("run-" + run).toAbsolutePath();
    }

    private Path folder(long run, long epoch) {
        return folder(run).resolve(EPOCH + epoch);
    }

    /** Where an attempt keeps what the steps made of the rows. */
    Path shaped(long run, long epoch) {
        return folder(run, epoch).resolve(SHAPED);
    }

    /**
     * An empty folder for an attempt; those of earlier ones are removed, but for the one that is still read from.
     *
     * @param read the attempt whose rows were adopted; empty where none were
     */
    Path prepare(long run, long epoch, OptionalLong read) {
        try {
            Path folder = Files.createDirectories(folder(run, epoch));
            List<Path> earlier;
            try (Stream<Path> folders = Files.list(folder(run))) {
                earlier = folders.filter(other -> isEarlier(other, epoch)).toList();
            }
            for (Path other : earlier) {
                if (read.isEmpty() || !other.equals(folder(run, read.getAsLong()))) {
                    FileSystemUtils.deleteRecursively(other);
                }
            }
            return folder;
        } catch (IOException e) {
            throw Disk.failure(e, settings.home());
        }
    }

    private static boolean isEarlier(Path folder, long epoch) {
        String name = folder.getFileName().toString();
        return !name.startsWith(EPOCH) || Long.parseLong(name.substring(EPOCH.length())) < epoch;
    }

    /** The run has ended, and everybody can know. */
    void remove(long run) {
        try {
            FileSystemUtils.deleteRecursively(folder(run));
        } catch (IOException e) {
            // nothing but space is lost
        }
    }
}
