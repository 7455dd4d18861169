package dev.nachlauf.core.spool;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** What is in a folder that others write to in the meantime: what is gone when its turn comes is left out, and no failure. */
public final class SharedFolder {
    private SharedFolder() {}

    /**
     * A file or folder as it was when it was looked at.
     *
     * @param attributes of itself; of a link, not of what it leads to
     */
    public record Entry(Path path, BasicFileAttributes attributes) {}

    /**
     * The files and folders right in a folder, in no order.
     *
     * @throws IOException where the folder itself can't be read
     */
    public static List<Entry> entries(Path folder) throws IOException {
        return walk(folder, 1);
    }

    /**
     * All files below a folder, in no order.
     *
     * @throws IOException where the folder itself can't be read
     */
    public static List<Entry> filesBelow(Path folder) throws IOException {
        return walk(folder, Integer.MAX_VALUE);
    }

    private static List<Entry> walk(Path shared, int depth) throws IOException {
        // the folder may be known by a link
        Path folder = shared.toRealPath();
        List<Entry> found = new ArrayList<>();
        Files.walkFileTree(folder, Set.of(), depth, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path path, BasicFileAttributes attributes) {
                found.add(new Entry(path, attributes));
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFileFailed(Path path, IOException e) throws IOException {
                if (path.equals(folder) || !(e instanceof NoSuchFileException)) {
                    throw e;
                }
                return FileVisitResult.CONTINUE;
            }
        });
        return found;
    }
}
