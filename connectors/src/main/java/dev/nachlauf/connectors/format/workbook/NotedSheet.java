package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import java.util.List;
import javax.xml.XMLConstants;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLStreamReader2;
import org.codehaus.stax2.XMLStreamWriter2;
import org.jspecify.annotations.Nullable;

/** A sheet that is passed on event by event (ECMA-376, part 1, 18.3), with cells added behind those of its rows. */
final class NotedSheet {
    private static final int LETTERS = 26;
    private static final String WIDTH = "24";

    private final SheetTable table;
    private final int column;
    private final List<String> heads;
    private final NotesOfPart notes;
    private long row;

    /** @param column the first one that is added, from 0 */
    NotedSheet(SheetTable table, int column, List<String> heads, NotesOfPart notes) {
        this.table = table;
        this.column = column;
        this.heads = heads;
        this.notes = notes;
    }

    /** The column of a cell's address, from 0. */
    static int column(String address) {
        int column = 0;
        for (int i = 0; i < address.length() && Character.isLetter(address.charAt(i)); i++) {
            column = column * LETTERS + Character.toUpperCase(address.charAt(i)) - 'A' + 1;
        }
        return column - 1;
    }

    /** Passes the event on at which the reader stands. */
    void pass(XMLStreamReader reader, XMLStreamWriter2 writer) throws XMLStreamException {
        boolean starts = reader.getEventType() == XMLStreamConstants.START_ELEMENT;
        boolean ends = reader.getEventType() == XMLStreamConstants.END_ELEMENT;
        String name = starts || ends ? reader.getLocalName() : "";
        if (starts && name.equals("row")) {
            String stated = XlsxNotes.attribute(reader, "r");
            row = stated == null ? row + 1 : Long.parseLong(stated);
            // spans only help a program to guess, and would be wrong now
            start(reader, writer, "spans", null);
        } else if (starts && name.equals("dimension")) {
            start(reader, writer, "ref", wider(XlsxNotes.attribute(reader, "ref")));
        } else {
            if (ends && name.equals("row")) {
                cells(reader, writer);
            } else if (ends && name.equals("cols")) {
                width(reader, writer);
            }
            writer.copyEventFromReader((XMLStreamReader2) reader, true);
        }
    }

    /** The element with one of its attributes replaced, or left out where that is null. */
    private static void start(XMLStreamReader reader, XMLStreamWriter2 writer, String changed, @Nullable String value)
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

    private @Nullable String wider(@Nullable String range) {
        if (range == null) {
            return null;
        }
        String[] corners = range.split(":");
        String digits = corners[corners.length - 1].replaceAll("\\D", "");
        return corners[0] + ":" + SheetTable.letters(column + heads.size() - 1) + digits;
    }

    private void width(XMLStreamReader cols, XMLStreamWriter2 writer) throws XMLStreamException {
        begin("col", cols, writer);
        writer.writeAttribute("min", String.valueOf(column + 1));
        writer.writeAttribute("max", String.valueOf(column + heads.size()));
        writer.writeAttribute("width", WIDTH);
        writer.writeAttribute("customWidth", "1");
        writer.writeEndElement();
    }

    /** An element of ours has the namespace of the one that stands around it. */
    private static void begin(String name, XMLStreamReader around, XMLStreamWriter2 writer) throws XMLStreamException {
        writer.writeStartElement(prefix(around.getPrefix()), name, uri(around.getNamespaceURI()));
    }

    private void cells(XMLStreamReader around, XMLStreamWriter2 writer) throws XMLStreamException {
        boolean heading = row == table.lastHeading() && table.hasNames();
        List<String> texts = heading ? heads : row > table.lastHeading() ? notes.at(row) : null;
        for (int i = 0; texts != null && i < texts.size(); i++) {
            String text = SheetRules.fitting(texts.get(i));
            if (!text.isEmpty()) {
                begin("c", around, writer);
                writer.writeAttribute("r", SheetTable.letters(column + i) + row);
                writer.writeAttribute("t", "inlineStr");
                begin("is", around, writer);
                begin("t", around, writer);
                writer.writeAttribute("xml", XMLConstants.XML_NS_URI, "space", "preserve");
                writer.writeCharacters(text);
                writer.writeEndElement();
                writer.writeEndElement();
                writer.writeEndElement();
            }
        }
    }
}
