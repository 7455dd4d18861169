package dev.nachlauf.connectors.format.workbook;

import com.ctc.wstx.stax.WstxOutputFactory;
import dev.nachlauf.connectors.format.xml.SafeXml;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLEventReader;
import javax.xml.stream.XMLEventWriter;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.events.StartElement;
import javax.xml.stream.events.XMLEvent;
import org.codehaus.stax2.XMLStreamWriter2;
import org.codehaus.stax2.ri.Stax2EventWriterImpl;
import org.jspecify.annotations.Nullable;

/** The content of an OpenDocument workbook, which is one part with all sheets: read, or written again, event by event. */
record OdsContent(String file, ZipFile zip, ZipEntry part) {
    private static final WstxOutputFactory WRITERS = new WstxOutputFactory();

    /** Takes an event. */
    interface Use {
        void of(XMLEvent event) throws XMLStreamException;
    }

    /** What is left of a sheet, its end included. */
    interface Rest {
        void each(Use use) throws XMLStreamException;
    }

    /** Takes a sheet behind its start; to be read to its end. */
    interface UseOfSheet {
        /** @param number from 1 */
        void of(int number, Rest rest) throws XMLStreamException;
    }

    /** Writes a sheet behind its start again, to its end. */
    interface Rewriting {
        void of(int number, Rest rest, XMLEventWriter writer, OdfWriter odf) throws XMLStreamException;
    }

    /** Gives every sheet. */
    void eachSheet(UseOfSheet use) throws IOException, XMLStreamException {
        eachSheet(null, use);
    }

    /** Writes the content again; what stands around sheets stays as it is. */
    void rewrite(OutputStream out, Rewriting rewriting) throws IOException, XMLStreamException {
        XMLStreamWriter2 xml = (XMLStreamWriter2) WRITERS.createXMLStreamWriter(out, "UTF-8");
        XMLEventWriter writer = new Stax2EventWriterImpl(xml);
        OdfWriter odf = new OdfWriter(xml);
        eachSheet(writer, (number, rest) -> rewriting.of(number, rest, writer, odf));
        writer.flush();
    }

    /** @param around takes what is outside of sheets, and their starts; null where nobody wants it */
    private void eachSheet(@Nullable XMLEventWriter around, UseOfSheet use) throws IOException, XMLStreamException {
        int sheets = 0;
        try (InputStream in = zip.getInputStream(part)) {
            XMLEventReader reader = SafeXml.events(in);
            while (reader.hasNext()) {
                XMLEvent event = SafeXml.next(reader, file);
                if (around != null) {
                    around.add(event);
                }
                if (isSheet(event)) {
                    use.of(++sheets, each -> rest(reader, each));
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

    private static boolean isSheet(XMLEvent event) {
        return event instanceof StartElement start
                && start.getName().getNamespaceURI().equals(OdsSheets.TABLE)
                && start.getName().getLocalPart().equals("table");
    }
}
