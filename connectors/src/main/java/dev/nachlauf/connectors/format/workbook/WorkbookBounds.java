package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;

/**
 * Workbooks are archives: what is read into memory of them is counted before it is unpacked, for an archive may lie about
 * its sizes, and every part is held against its check sum, for the library doesn't.
 */
final class WorkbookBounds {
    /** The table of texts and the styles are held in memory while a workbook is read: as much as this share of it. */
    private static final int SHARE = 5;

    private static final int MOST_ENTRIES = 10_000;
    private static final int BUFFER = 1 << 16;
    /** Says of which parts a workbook consists (ECMA-376, part 1, 12.3.23). */
    private static final String RELATIONS = "xl/_rels/workbook.xml.rels";

    private static final int LONGEST_RELATIONS = 1 << 20;
    private static final Pattern TARGET = Pattern.compile("Target=\"([^\"]+)\"");

    private WorkbookBounds() {}

    static void check(String file, Path path) throws IOException {
        check(file, path, Runtime.getRuntime().maxMemory() / SHARE);
    }

    /** @param most so many bytes may be held in memory */
    static void check(String file, Path path, long most) throws IOException {
        try (ZipFile zip = new ZipFile(path.toFile())) {
            if (zip.size() > MOST_ENTRIES) {
                throw tooLarge(file, "has more than " + MOST_ENTRIES + " parts");
            }
            Set<String> names = new HashSet<>();
            long held = 0;
            for (ZipEntry entry : zip.stream().toList()) {
                if (!names.add(entry.getName())) {
                    throw damaged(file, "it holds the part " + entry.getName() + " twice");
                }
                held += passed(file, zip, entry, most - held);
            }
            requireParts(file, zip, names);
        } catch (ZipException | EOFException e) {
            throw damaged(file, "it is no archive, or a part of it can't be unpacked");
        }
    }

    /** How many bytes of a part are held in memory. Pictures never are, and sheets are streamed. */
    private static long passed(String file, ZipFile zip, ZipEntry entry, long most) throws IOException {
        String name = entry.getName();
        boolean held = !name.contains("media/")
                && !name.startsWith("Pictures/")
                && !name.startsWith("xl/worksheets/")
                && !name.equals("content.xml");
        CRC32 sum = new CRC32();
        byte[] buffer = new byte[BUFFER];
        long size = 0;
        try (InputStream part = zip.getInputStream(entry)) {
            for (int read = part.read(buffer); read >= 0; read = part.read(buffer)) {
                sum.update(buffer, 0, read);
                size += read;
                if (held && size > most) {
                    throw tooLarge(file, "unpacks to more than " + (most >> 20) + " MB of texts");
                }
            }
        }
        if (entry.getCrc() >= 0 && entry.getCrc() != sum.getValue()) {
            throw damaged(file, "the check sum of " + name + " is wrong");
        }
        return held ? size : 0;
    }

    /** Without its table of texts a workbook would be read as if its texts were blank. */
    private static void requireParts(String file, ZipFile zip, Set<String> names) throws IOException {
        ZipEntry relations = zip.getEntry(RELATIONS);
        if (relations == null) {
            return;
        }
        String text;
        try (InputStream in = zip.getInputStream(relations)) {
            text = new String(in.readNBytes(LONGEST_RELATIONS), StandardCharsets.UTF_8);
        }
        for (Matcher target = TARGET.matcher(text); target.find(); ) {
            String part = target.group(1).startsWith("/") ? target.group(1).substring(1) : "xl/" + target.group(1);
            if (!part.contains(":") && !part.contains("..") && !names.contains(part)) {
                throw damaged(file, "the part " + part + " is not in it");
            }
        }
    }

    private static CannotGoOn damaged(String file, String how) {
        return new CannotGoOn(Problem.of(
                ProblemCode.FILE_MALFORMED,
                "The workbook " + file + " is damaged: " + how + ".",
                "Ask the sender for it again."));
    }

    private static CannotGoOn tooLarge(String file, String what) {
        return new CannotGoOn(Problem.of(
                ProblemCode.FILE_TOO_LARGE,
                "The workbook " + file + " " + what + ".",
                "Save the sheet as delimited text and load that."));
    }
}
