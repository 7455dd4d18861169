package dev.nachlauf.connectors.format.workbook;

import com.ctc.wstx.stax.WstxOutputFactory;
import dev.nachlauf.connectors.format.xml.SafeXml;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLStreamReader2;
import org.codehaus.stax2.XMLStreamWriter2;

/**
 * Copies an Office Open XML workbook part by part with edits of one sheet. Programs are told to compute its formulas anew;
 * all other parts are copied as they are.
 */
final class XlsxEdits {
    private static final WstxOutputFactory WRITERS = new WstxOutputFactory();
    /** Tells programs to compute when they open the workbook (ECMA-376, part 1, 18.2.2). */
    private static final String COMPUTE = "fullCalcOnLoad";

    private final String file;
    private final ZipFile zip;
    private final SheetTable table;
    private final long lastRow;
    private final boolean from1904;

    private XlsxEdits(String file, ZipFile zip, SheetTable table, long lastRow, boolean from1904) {
        this.file = file;
        this.zip = zip;
        this.table = table;
        this.lastRow = lastRow;
        this.from1904 = from1904;
    }

    static void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        Path path = bytes.path();
        try (XlsxSheets sheets = XlsxSheets.open(bytes.file(), path);
                ZipFile zip = new ZipFile(path.toFile());
                ZipOutputStream copy = new ZipOutputStream(out)) {
            SheetTable table = SheetChoice.of(sheets, options).only(bytes.file());
            new XlsxEdits(bytes.file(), zip, table, table.lastRow(sheets), sheets.from1904()).copy(edits, copy);
        } catch (XMLStreamException e) {
            throw WorkbookOptions.unreadable(bytes.file());
        }
    }

    private void copy(RowEdits edits, ZipOutputStream copy) throws IOException, XMLStreamException {
        String sheet = XlsxParts.ofSheets(zip, file).getOrDefault(table.sheet().name(), "");
        XlsxStyles styles = XlsxStyles.of(zip, file);
        CopiedArchive.copy(zip, copy, part -> {
            if (part.equals(sheet)) {
                return (entry, out) -> rewritten(
                        entry,
                        out,
                        new EditedSheet(file, table, lastRow, edits, new SheetCells(styles, from1904))::copy);
            }
            return part.equals(XlsxParts.WORKBOOK)
                    ? (entry, out) -> rewritten(entry, out, XlsxEdits::computedAnew)
                    : null;
        });
    }

    /** Writes a part by its events. */
    interface Rewriting {
        void of(XMLStreamReader2 reader, XMLStreamWriter2 writer) throws XMLStreamException;
    }

    private void rewritten(ZipEntry part, OutputStream out, Rewriting rewriting)
            throws IOException, XMLStreamException {
        try (InputStream in = zip.getInputStream(part)) {
            XMLStreamReader reader = SafeXml.reader(in, null);
            XMLStreamWriter2 writer = (XMLStreamWriter2) WRITERS.createXMLStreamWriter(out, "UTF-8");
            writer.writeStartDocument("UTF-8", "1.0");
            while (reader.hasNext()) {
                SafeXml.next(reader, file);
                rewriting.of((XMLStreamReader2) reader, writer);
            }
            writer.flush();
        }
    }

    private static void computedAnew(XMLStreamReader2 reader, XMLStreamWriter2 writer) throws XMLStreamException {
        boolean settings = reader.getEventType() == XMLStreamConstants.START_ELEMENT
                && reader.getLocalName().equals("calcPr");
        if (settings) {
            SheetXml.start(reader, writer, COMPUTE, null);
            writer.writeAttribute(COMPUTE, "1");
        } else {
            writer.copyEventFromReader(reader, true);
        }
    }
}
