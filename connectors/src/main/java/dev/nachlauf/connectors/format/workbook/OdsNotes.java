package dev.nachlauf.connectors.format.workbook;

import com.ctc.wstx.stax.WstxOutputFactory;
import dev.nachlauf.connectors.format.xml.SafeXml;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows.Notes;
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
import javax.xml.stream.XMLEventReader;
import javax.xml.stream.XMLEventWriter;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.events.StartElement;
import javax.xml.stream.events.XMLEvent;
import org.codehaus.stax2.XMLStreamWriter2;
import org.codehaus.stax2.ri.Stax2EventWriterImpl;
import org.jspecify.annotations.Nullable;

/**
 * Copies an OpenDocument workbook part by part. Its content is one part with all sheets, which is written again event by
 * event with cells added behind those of the rows that were read; all other parts are copied as they are.
 */
final class OdsNotes {
    private static final WstxOutputFactory WRITERS = new WstxOutputFactory();

    private final String file;
    private final Map<Integer, SheetTable> tables = new HashMap<>();
    private final List<String> heads;
    private final Notes notes;

    private OdsNotes(String file, List<SheetTable> tables, List<String> heads, Notes notes) {
        this.file = file;
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
            OdsNotes noted = new OdsNotes(bytes.file(), tables, heads, notes);
            CopiedArchive.copy(
                    zip,
                    copy,
                    part -> part.equals(OdsSheets.CONTENT) ? (entry, to) -> noted.write(zip, entry, to) : null);
        } catch (XMLStreamException e) {
            throw WorkbookOptions.unreadable(bytes.file());
        }
    }

    /** Two passes: where a sheet has room for notes is only known at its end. */
    private void write(ZipFile zip, ZipEntry content, OutputStream out) throws IOException, XMLStreamException {
        Map<Integer, Integer> widths = new HashMap<>();
        eachTable(zip, content, (number, events) -> {
            OdsWidth width = new OdsWidth();
            events.rest(width::see);
            widths.put(number, width.cells());
        });
        XMLStreamWriter2 xml = (XMLStreamWriter2) WRITERS.createXMLStreamWriter(out, "UTF-8");
        XMLEventWriter writer = new Stax2EventWriterImpl(xml);
        eachTable(zip, content, writer, (number, events) -> {
            SheetTable table = tables.get(number);
            if (table == null) {
                events.rest(writer::add);
                return;
            }
            int column = Math.max(table.heading().names().size(), widths.getOrDefault(number, 0));
            try (var found = notes.of(table.sheet().name())) {
                OdsNotedTable noted = new OdsNotedTable(table, column, heads, found, writer, new OdfWriter(xml));
                events.rest(noted::pass);
            }
        });
        writer.flush();
    }

    private interface Use {
        void of(XMLEvent event) throws XMLStreamException;
    }

    /** What is left of a sheet, its end included. */
    private interface Rest {
        void rest(Use use) throws XMLStreamException;
    }

    private interface UseOfTable {
        void of(int number, Rest events) throws XMLStreamException;
    }

    private void eachTable(ZipFile zip, ZipEntry content, UseOfTable use) throws IOException, XMLStreamException {
        eachTable(zip, content, null, use);
    }

    /** @param around takes what is outside of sheets, and their starts; null where nobody wants it */
    private void eachTable(ZipFile zip, ZipEntry content, @Nullable XMLEventWriter around, UseOfTable use)
            throws IOException, XMLStreamException {
        int tables = 0;
        try (InputStream in = zip.getInputStream(content)) {
            XMLEventReader reader = SafeXml.events(in);
            while (reader.hasNext()) {
                XMLEvent event = SafeXml.next(reader, file);
                if (around != null) {
                    around.add(event);
                }
                if (isTable(event)) {
                    use.of(++tables, each -> rest(reader, each));
                }
            }
        }
    }

    private void rest(XMLEventReader reader, Use use) throws XMLStreamException {
        for (int depth = 1; depth > 0; ) {
            XMLEvent event = SafeXml.next(reader, file);
            depth += event.isStartElement() ? 1 : event.isEndElement() ? -1 : 0;
            use.of(event);
        }
    }

    private static boolean isTable(XMLEvent event) {
        return event instanceof StartElement start
                && start.getName().getNamespaceURI().equals(OdsSheets.TABLE)
                && start.getName().getLocalPart().equals("table");
    }
}
