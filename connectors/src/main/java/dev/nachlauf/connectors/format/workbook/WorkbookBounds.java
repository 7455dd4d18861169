package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.IOException;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;

/** Workbooks are archives: what is read into memory of them is bounded before it is unpacked. */
final class WorkbookBounds {
    /** The table of texts and the styles are held in memory while a workbook is read. */
    private static final long LARGEST_HELD = 512L << 20;

    private static final long LARGEST_PACKED = LARGEST_HELD / 4;
    private static final int MOST_ENTRIES = 10_000;

    private WorkbookBounds() {}

    static void check(String file, Path path) throws IOException {
        try (ZipFile zip = new ZipFile(path.toFile())) {
            if (zip.size() > MOST_ENTRIES) {
                throw tooLarge(file, "has more than " + MOST_ENTRIES + " parts");
            }
            for (ZipEntry entry : zip.stream().toList()) {
                boolean sheet = entry.getName().startsWith("xl/worksheets/")
                        || entry.getName().equals("content.xml");
                boolean media =
                        entry.getName().contains("media/") || entry.getName().startsWith("Pictures/");
                if (!sheet
                        && !media
                        && (entry.getSize() > LARGEST_HELD || entry.getCompressedSize() > LARGEST_PACKED)) {
                    throw tooLarge(file, "unpacks to more than " + (LARGEST_HELD >> 20) + " MB of texts");
                }
            }
        } catch (ZipException e) {
            throw new CannotGoOn(
                    Problem.of(
                            ProblemCode.FILE_MALFORMED,
                            "The workbook " + file + " is damaged: it is no archive, or its end is missing.",
                            "Ask the sender for it again."),
                    e);
        }
    }

    private static CannotGoOn tooLarge(String file, String what) {
        return new CannotGoOn(Problem.of(
                ProblemCode.FILE_TOO_LARGE,
                "The workbook " + file + " " + what + ".",
                "Save the sheet as delimited text and load that."));
    }
}
