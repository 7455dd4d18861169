package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows.Notes;
import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import javax.xml.stream.XMLStreamException;

/**
 * Copies an OpenDocument workbook part by part. Its content is one part with all sheets, which is written again event by
 * event with cells added behind those of the rows that were read; all other parts are copied as they are.
 */
final class OdsNotes {
    private final Map<Integer, SheetTable> tables = new HashMap<>();
    private final List<String> heads;
    private final Notes notes;

    private OdsNotes(List<SheetTable> tables, List<String> heads, Notes notes) {
        this.heads = heads;
        this.notes = notes;
        tables.forEach(table -> this.tables.put(table.sheet().number(), table));
    }

    static void copy(SourceBytes bytes, FormatOptions options, List<String> heads, Notes notes, OutputStream out)
            throws IOException {
        Path path = bytes.path();
        List<SheetTable> tables;
        try (OdsSheets sheets = OdsSheets.open(bytes.file(), path)) {
            tables = SheetChoice.of(sheets, options).tables();
        }
        try (ZipFile zip = new ZipFile(path.toFile());
                ZipOutputStream copy = new ZipOutputStream(out)) {
            OdsNotes noted = new OdsNotes(tables, heads, notes);
            CopiedArchive.copy(
                    zip,
                    copy,
                    part -> part.equals(OdsSheets.CONTENT)
                            ? (entry, to) -> noted.write(new OdsContent(bytes.file(), zip, entry), to)
                            : null);
        } catch (XMLStreamException e) {
            throw WorkbookOptions.unreadable(bytes.file());
        }
    }

    /** Two passes: where a sheet has room for notes is only known at its end. */
    private void write(OdsContent content, OutputStream out) throws IOException, XMLStreamException {
        Map<Integer, Integer> widths = new HashMap<>();
        content.eachSheet((number, rest) -> {
            OdsWidth width = new OdsWidth();
            rest.each(width::see);
            widths.put(number, width.cells());
        });
        content.rewrite(out, (number, rest, writer, odf) -> {
            SheetTable table = tables.get(number);
            if (table == null) {
                rest.each(writer::add);
                return;
            }
            int column = Math.max(table.heading().names().size(), widths.getOrDefault(number, 0));
            try (NotesOfPart found = notes.of(table.sheet().name())) {
                rest.each(new OdsNotedTable(table, column, heads, found, writer, odf)::pass);
            }
        });
    }
}
