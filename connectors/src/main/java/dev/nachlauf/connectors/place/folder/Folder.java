package dev.nachlauf.connectors.place.folder;

import dev.nachlauf.connectors.place.FilePattern;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.spool.SharedFolder;
import dev.nachlauf.core.system.TakesFiles;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Predicate;

/** The files of one folder, without the folders below it. */
final class Folder implements TakesFiles {
    private final Path path;
    private final Duration quiet;

    Folder(Path path, Duration quiet) {
        this.path = path;
        this.quiet = quiet;
    }

    @Override
    public Duration quiet() {
        return quiet;
    }

    @Override
    public Greeting greet() {
        check();
        return new Greeting("folder " + path, "", true, Files.isWritable(path));
    }

    private void check() {
        if (!path.isAbsolute()) {
            throw problem(ProblemCode.SETTING_MALFORMED, "The path " + path + " is not absolute.");
        }
        if (!Files.isDirectory(path)) {
            throw problem(ProblemCode.FILE_MISSING, "There is no folder " + path + ".");
        }
        if (!Files.isReadable(path)) {
            throw problem(ProblemCode.NOT_PERMITTED, "The service may not read the folder " + path + ".");
        }
    }

    private static CannotGoOn problem(ProblemCode code, String sentence) {
        return new CannotGoOn(Problem.at(
                new Place.InSetting("path"),
                code,
                sentence,
                "Correct the path of the connection, or the folder's rights."));
    }

    @Override
    public List<FoundFile> find(String pattern) {
        check();
        Predicate<String> matcher = FilePattern.matcher(pattern);
        List<FoundFile> found = new ArrayList<>();
        try {
            for (SharedFolder.Entry entry : SharedFolder.entries(path)) {
                String name = entry.path().getFileName().toString();
                BasicFileAttributes attributes = entry.attributes();
                if (attributes.isRegularFile() && matcher.test(name)) {
                    found.add(new FoundFile(
                            name,
                            attributes.size(),
                            attributes.lastModifiedTime().toInstant()));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        found.sort(Comparator.comparing(FoundFile::name));
        return found;
    }

    @Override
    public InputStream open(FoundFile file) {
        try {
            return Files.newInputStream(path.resolve(file.name()), LinkOption.NOFOLLOW_LINKS);
        } catch (NoSuchFileException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.FILE_MISSING, "The file " + file.name() + " is gone.", "Start the run again."),
                    e);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void put(String name, Path content) {
        Path unfinished = path.resolve(FilePattern.unfinished(name));
        check();
        try {
            Files.copy(content, unfinished, StandardCopyOption.REPLACE_EXISTING);
            Files.move(
                    unfinished,
                    path.resolve(name),
                    StandardCopyOption.ATOMIC_MOVE,
                    StandardCopyOption.REPLACE_EXISTING);
        } catch (AccessDeniedException e) {
            throw new CannotGoOn(
                    Problem.at(
                            new Place.InSetting("path"),
                            ProblemCode.NOT_PERMITTED,
                            "The service may not write into the folder " + path + ".",
                            "Correct the folder's rights."),
                    e);
        } catch (IOException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.UNREACHABLE,
                            "Nothing can be written into the folder " + path + ": " + e.getMessage() + ".",
                            "Look whether its disk is full or gone."),
                    e);
        }
    }

    @Override
    public void close() {
        // nothing is held open
    }
}
