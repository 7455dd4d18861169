package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceContainer;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;

/** A zip archive of files. */
public final class Zip implements SourceContainer {
    static final int MOST_FILES = 1_000;
    private static final String SYSTEM_FOLDER = "__MACOSX/";

    @Override
    public Optional<List<SourceBytes>> members(SourceBytes bytes, Path scratch) throws IOException {
        try (InputStream in = bytes.open()) {
            byte[] mark = in.readNBytes(4);
            if (mark.length < 4 || mark[0] != 'P' || mark[1] != 'K' || mark[2] != 3 || mark[3] != 4) {
                return Optional.empty();
            }
        }
        Path path = bytes.path();
        try (ZipFile zip = new ZipFile(path.toFile())) {
            if (zip.getEntry("[Content_Types].xml") != null || zip.getEntry("mimetype") != null) {
                return Optional.empty();
            }
            if (zip.size() > MOST_FILES) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_TOO_LARGE,
                        "The archive " + bytes.file() + " holds more than " + MOST_FILES + " files.",
                        "Deliver fewer at a time."));
            }
            List<SourceBytes> members = new ArrayList<>();
            for (ZipEntry entry : zip.stream().toList()) {
                if (!entry.isDirectory() && !entry.getName().startsWith(SYSTEM_FOLDER)) {
                    members.add(new Member(shown(entry.getName()), () -> open(path, entry), scratch));
                }
            }
            if (members.isEmpty()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_EMPTY,
                        "The archive " + bytes.file() + " holds no file.",
                        "Ask the sender for it again."));
            }
            members.sort(Comparator.comparing(SourceBytes::file));
            return Optional.of(members);
        } catch (ZipException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.FILE_MALFORMED,
                            "The archive " + bytes.file() + " is damaged, or its end is missing.",
                            "Ask the sender for it again."),
                    e);
        }
    }

    /** The last part of a name: folders inside an archive say nothing to a reader. */
    private static String shown(String name) {
        return name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1);
    }

    private static InputStream open(Path path, ZipEntry entry) throws IOException {
        ZipFile zip = new ZipFile(path.toFile());
        try {
            InputStream bytes = zip.getInputStream(entry);
            return new FilterInputStream(
                    new BoundedExpansion(entry.getName(), bytes, Math.max(0, entry.getCompressedSize()))) {
                @Override
                public void close() throws IOException {
                    super.close();
                    zip.close();
                }
            };
        } catch (IOException | RuntimeException e) {
            zip.close();
            throw e;
        }
    }
}
