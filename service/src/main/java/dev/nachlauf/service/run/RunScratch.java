package dev.nachlauf.service.run;

import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.util.FileSystemUtils;

/** A folder for each run that is under way; what the steps made of the rows stays in it from attempt to attempt. */
@Component
class RunScratch {
    private static final String KEPT = "shaped-rows";

    private final NachlaufSettings settings;

    RunScratch(NachlaufSettings settings) {
        this.settings = settings;
    }

    private Path folder(long run) {
        return settings.home().resolve("scratch").resolve("run-" + run).toAbsolutePath();
    }

    /** The run's folder, without what an earlier attempt left half done. */
    Path prepare(long run) {
        try {
            Path folder = Files.createDirectories(folder(run));
            List<Path> left;
            try (Stream<Path> files = Files.list(folder)) {
                left = files.filter(file -> !file.getFileName().toString().equals(KEPT))
                        .toList();
            }
            for (Path file : left) {
                FileSystemUtils.deleteRecursively(file);
            }
            return folder;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The run has ended. */
    void remove(long run) {
        try {
            FileSystemUtils.deleteRecursively(folder(run));
        } catch (IOException e) {
            // nothing but space is lost
        }
    }
}
