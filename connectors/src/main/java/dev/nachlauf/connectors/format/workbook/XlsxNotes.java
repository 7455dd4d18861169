package dev.nachlauf.connectors.format.workbook;

import com.ctc.wstx.stax.WstxOutputFactory;
import dev.nachlauf.connectors.format.xml.SafeXml;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows.Notes;
import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLStreamWriter2;

/**
 * Copies an Office Open XML workbook part by part. Only the sheets that were read are taken apart, and written again event
 * by event with cells added at the ends of their rows; all other parts are copied as they are.
 */
final class XlsxNotes {
    private final String file;
    private final List<String> heads;
    private final Notes notes;
    private final WstxOutputFactory writers = new WstxOutputFactory();

    private XlsxNotes(String file, List<String> heads, Notes notes) {
        this.file = file;
        this.heads = heads;
        this.notes = notes;
    }

    static void copy(SourceBytes bytes, FormatOptions options, List<String> heads, Notes notes, OutputStream out)
            throws IOException {
        Path path = bytes.path();
        List<SheetTable> tables;
        try (XlsxSheets sheets = XlsxSheets.open(bytes.file(), path)) {
            tables = SheetChoice.of(sheets, options).tables();
        }
        try (ZipFile zip = new ZipFile(path.toFile());
                ZipOutputStream copy = new ZipOutputStream(out)) {
            new XlsxNotes(bytes.file(), heads, notes).copy(zip, tables, copy);
        } catch (XMLStreamException e) {
            throw WorkbookOptions.unreadable(bytes.file());
        }
    }

    private void copy(ZipFile zip, List<SheetTable> tables, ZipOutputStream copy)
            throws IOException, XMLStreamException {
        Map<String, String> parts = XlsxParts.ofSheets(zip, file);
        Map<String, SheetTable> noted = new HashMap<>();
        tables.forEach(table -> noted.put(parts.getOrDefault(table.sheet().name(), ""), table));
        CopiedArchive.copy(zip, copy, name -> {
            SheetTable table = noted.get(name);
            return table == null ? null : (entry, out) -> copy(zip, entry, table, out);
        });
    }

    private void copy(ZipFile zip, ZipEntry sheet, SheetTable table, OutputStream out)
            throws IOException, XMLStreamException {
        int column = widest(zip, sheet, table);
        try (InputStream in = zip.getInputStream(sheet);
                NotesOfPart found = notes.of(table.sheet().name())) {
            copy(in, new NotedSheet(table, column, heads, found), out);
        }
    }

    /** The first column behind the table that no row of its sheet uses, from 0. */
    private int widest(ZipFile zip, ZipEntry sheet, SheetTable table) throws IOException, XMLStreamException {
        int[] widest = {table.heading().names().size()};
        XlsxParts.each(zip, file, sheet.getName(), "c", cell -> {
            String address = XlsxParts.attribute(cell, "r");
            if (address != null) {
                widest[0] = Math.max(widest[0], SheetXml.column(address) + 1);
            }
        });
        return widest[0];
    }

    private void copy(InputStream in, NotedSheet sheet, OutputStream out) throws XMLStreamException {
        XMLStreamReader reader = SafeXml.reader(in, null);
        XMLStreamWriter2 writer = (XMLStreamWriter2) writers.createXMLStreamWriter(out, "UTF-8");
        writer.writeStartDocument("UTF-8", "1.0");
        while (reader.hasNext()) {
            SafeXml.next(reader, file);
            sheet.pass(reader, writer);
        }
        writer.flush();
    }
}
