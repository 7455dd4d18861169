package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceContainer;
import java.io.EOFException;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
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
                Packing.refuseByName(bytes.file(), ".zip");
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
            List<ZipEntry> files = zip.stream()
                    .filter(entry -> !entry.isDirectory() && !entry.getName().startsWith(SYSTEM_FOLDER))
                    .map(ZipEntry.class::cast)
                    .toList();
            requireDistinct(bytes.file(), files);
            List<SourceBytes> members = new ArrayList<>();
            for (ZipEntry entry : files) {
                members.add(new Member(entry.getName(), shown(entry, files), () -> open(path, entry), scratch));
            }
            if (members.isEmpty()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_EMPTY,
                        "The archive " + bytes.file() + " holds no file.",
                        "Ask the sender for it again."));
            }
            members.sort(Comparator.comparing(SourceBytes::file).thenComparing(SourceBytes::id));
            return Optional.of(members);
        } catch (ZipException | EOFException e) {
            throw Packing.damaged(bytes.file());
        }
    }

    /** Which of two files of one name would be read is anybody's guess. */
    private static void requireDistinct(String archive, List<ZipEntry> files) {
        Set<String> names = new HashSet<>();
        for (ZipEntry entry : files) {
            if (!names.add(entry.getName())) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_MALFORMED,
                        "The archive " + archive + " holds two files " + entry.getName() + ".",
                        "Ask the sender for it again."));
            }
        }
    }

    /** The last part of a name, for folders inside an archive say little; the whole where others end alike. */
    private static String shown(ZipEntry entry, List<ZipEntry> all) {
        String last = last(entry.getName());
        return all.stream().filter(other -> last(other.getName()).equals(last)).count() > 1 ? entry.getName() : last;
    }

    private static String last(String name) {
        return name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1);
    }

    private static InputStream open(Path path, ZipEntry entry) throws IOException {
        ZipFile zip = new ZipFile(path.toFile());
        try {
            InputStream bytes = zip.getInputStream(entry);
            return new FilterInputStream(new Checked(
                    entry, new BoundedExpansion(entry.getName(), bytes, Math.max(0, entry.getCompressedSize())))) {
                @Override
                public void close() throws IOException {
                    super.close();
                    zip.close();
                }
            };
        } catch (ZipException | EOFException e) {
            zip.close();
            throw Packing.damaged(entry.getName());
        } catch (IOException | RuntimeException e) {
            zip.close();
            throw e;
        }
    }
}
