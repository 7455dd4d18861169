package dev.nachlauf.connectors.format.workbook;

import javax.xml.XMLConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLStreamWriter2;
import org.jspecify.annotations.Nullable;

/** Writes elements into a sheet that is passed on (ECMA-376, part 1, 18.3), in the namespace of what stands around them. */
final class SheetXml {
    private static final int LETTERS = 26;

    private SheetXml() {}

    /** The column of a cell's address, from 0. */
    static int column(String address) {
        int column = 0;
        for (int i = 0; i < address.length() && Character.isLetter(address.charAt(i)); i++) {
            column = column * LETTERS + Character.toUpperCase(address.charAt(i)) - 'A' + 1;
        }
        return column - 1;
    }

    /** The element at hand with one of its attributes replaced, or left out where that is null. */
    static void start(XMLStreamReader reader, XMLStreamWriter2 writer, String changed, @Nullable String value)
            throws XMLStreamException {
        writer.writeStartElement(prefix(reader.getPrefix()), reader.getLocalName(), uri(reader.getNamespaceURI()));
        for (int i = 0; i < reader.getNamespaceCount(); i++) {
            writer.writeNamespace(prefix(reader.getNamespacePrefix(i)), uri(reader.getNamespaceURI(i)));
        }
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            String name = reader.getAttributeLocalName(i);
            String now = name.equals(changed) ? value : reader.getAttributeValue(i);
            if (now != null) {
                writer.writeAttribute(
                        prefix(reader.getAttributePrefix(i)), uri(reader.getAttributeNamespace(i)), name, now);
            }
        }
    }

    private static String prefix(@Nullable String prefix) {
        return prefix == null ? "" : prefix;
    }

    private static String uri(@Nullable String uri) {
        return uri == null ? "" : uri;
    }

    static void begin(String name, XMLStreamReader around, XMLStreamWriter2 writer) throws XMLStreamException {
        writer.writeStartElement(prefix(around.getPrefix()), name, uri(around.getNamespaceURI()));
    }

    /** Begins a cell. */
    static void cell(String address, XMLStreamReader around, XMLStreamWriter2 writer) throws XMLStreamException {
        begin("c", around, writer);
        writer.writeAttribute("r", address);
    }

    /** The text of a cell that was begun. */
    static void text(String text, XMLStreamReader around, XMLStreamWriter2 writer) throws XMLStreamException {
        writer.writeAttribute("t", "inlineStr");
        begin("is", around, writer);
        begin("t", around, writer);
        writer.writeAttribute("xml", XMLConstants.XML_NS_URI, "space", "preserve");
        writer.writeCharacters(text);
        writer.writeEndElement();
        writer.writeEndElement();
    }
}
