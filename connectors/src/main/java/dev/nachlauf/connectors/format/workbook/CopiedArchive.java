package dev.nachlauf.connectors.format.workbook;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.function.Function;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;

/** Copies an archive part by part, of which some are written anew. */
final class CopiedArchive {
    private CopiedArchive() {}

    /** Writes a part anew. */
    @FunctionalInterface
    interface Anew {
        void write(ZipEntry part, OutputStream out) throws IOException, XMLStreamException;
    }

    /** @param anew how a part of a name is written; null for one that is copied as it is */
    static void copy(ZipFile from, ZipOutputStream to, Function<String, @Nullable Anew> anew)
            throws IOException, XMLStreamException {
        for (ZipEntry part : from.stream().toList()) {
            Anew change = anew.apply(part.getName());
            ZipEntry same = new ZipEntry(part.getName());
            same.setTime(part.getTime());
            if (change == null && part.getMethod() == ZipEntry.STORED) {
                // one standard wants its first part as it is, so that a file is known by its first bytes
                same.setMethod(ZipEntry.STORED);
                same.setSize(part.getSize());
                same.setCrc(part.getCrc());
            }
            to.putNextEntry(same);
            if (change == null) {
                try (InputStream in = from.getInputStream(part)) {
                    in.transferTo(to);
                }
            } else {
                change.write(part, to);
            }
            to.closeEntry();
        }
    }
}
