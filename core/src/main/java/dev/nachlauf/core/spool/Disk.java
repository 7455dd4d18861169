package dev.nachlauf.core.spool;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/**
 * What all files of ours have in common: their names are forced to disk as their bytes are ({@link ForcedOutput}), and a
 * disk can be full.
 */
public final class Disk {
    /** With less than this left, a failure to write has no other reason. */
    private static final long NOTHING_LEFT = 64 * 1024;

    private Disk() {}

    /** Has a folder's entries on disk: a file that got its name there keeps it over a loss of power. */
    public static void forceEntries(Path folder) throws IOException {
        try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
            channel.force(true);
        }
    }

    /** What a failure to write below a folder means: {@code disk-full}, which passes when somebody makes room, or a defect. */
    public static RuntimeException failure(IOException e, Path folder) {
        return isFull(e, folder) ? full(folder) : new UncheckedIOException(e);
    }

    /** The problem of a folder whose disk has no room left. */
    public static CannotGoOn full(Path folder) {
        return new CannotGoOn(Problem.of(
                ProblemCode.DISK_FULL,
                "The disk that holds " + folder.toAbsolutePath() + " is full.",
                "Make room there; a run goes on by itself then."));
    }

    private static boolean isFull(IOException e, Path folder) {
        String message = String.valueOf(e.getMessage());
        if (message.contains("No space left") || message.contains("quota exceeded")) {
            return true;
        }
        try {
            return Files.getFileStore(folder).getUsableSpace() < NOTHING_LEFT;
        } catch (IOException unknown) {
            return false;
        }
    }
}
