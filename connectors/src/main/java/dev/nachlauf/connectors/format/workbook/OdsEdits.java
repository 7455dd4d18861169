package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import javax.xml.stream.XMLStreamException;

/** Copies an OpenDocument workbook part by part with edits of one sheet; all other parts are copied as they are. */
final class OdsEdits {
    private OdsEdits() {}

    static void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        Path path = bytes.path();
        String file = bytes.file();
        SheetTable table;
        long lastRow;
        try (OdsSheets sheets = OdsSheets.open(file, path)) {
            table = SheetChoice.of(sheets, options).only(file);
            lastRow = table.lastRow(sheets);
        }
        try (ZipFile zip = new ZipFile(path.toFile());
                ZipOutputStream copy = new ZipOutputStream(out)) {
            CopiedArchive.copy(zip, copy, part -> {
                if (!part.equals(OdsSheets.CONTENT)) {
                    return null;
                }
                return (entry, to) -> new OdsContent(file, zip, entry).rewrite(to, (number, rest, writer, odf) -> {
                    if (number == table.sheet().number()) {
                        rest.each(new OdsEditedTable(file, table, lastRow, edits, writer, odf)::pass);
                    } else {
                        rest.each(writer::add);
                    }
                });
            });
        } catch (XMLStreamException e) {
            throw WorkbookOptions.unreadable(file);
        }
    }
}
