package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import java.util.List;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLStreamReader2;
import org.codehaus.stax2.XMLStreamWriter2;
import org.jspecify.annotations.Nullable;

/** A sheet that is passed on event by event (ECMA-376, part 1, 18.3), with cells added behind those of its rows. */
final class NotedSheet {
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

    /** Passes the event on at which the reader stands. */
    void pass(XMLStreamReader reader, XMLStreamWriter2 writer) throws XMLStreamException {
        boolean starts = reader.getEventType() == XMLStreamConstants.START_ELEMENT;
        boolean ends = reader.getEventType() == XMLStreamConstants.END_ELEMENT;
        String name = starts || ends ? reader.getLocalName() : "";
        if (starts && name.equals("row")) {
            String stated = XlsxParts.attribute(reader, "r");
            row = stated == null ? row + 1 : Long.parseLong(stated);
            // spans only help a program to guess, and would be wrong now
            SheetXml.start(reader, writer, "spans", null);
        } else if (starts && name.equals("dimension")) {
            SheetXml.start(reader, writer, "ref", wider(XlsxParts.attribute(reader, "ref")));
        } else {
            if (ends && name.equals("row")) {
                cells(reader, writer);
            } else if (ends && name.equals("cols")) {
                width(reader, writer);
            }
            writer.copyEventFromReader((XMLStreamReader2) reader, true);
        }
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
        SheetXml.begin("col", cols, writer);
        writer.writeAttribute("min", String.valueOf(column + 1));
        writer.writeAttribute("max", String.valueOf(column + heads.size()));
        writer.writeAttribute("width", WIDTH);
        writer.writeAttribute("customWidth", "1");
        writer.writeEndElement();
    }

    private void cells(XMLStreamReader around, XMLStreamWriter2 writer) throws XMLStreamException {
        boolean heading = row == table.lastHeading() && table.hasNames();
        List<String> texts = heading ? heads : row > table.lastHeading() ? notes.at(row) : null;
        for (int i = 0; texts != null && i < texts.size(); i++) {
            String text = SheetRules.fitting(texts.get(i));
            if (!text.isEmpty()) {
                SheetXml.cell(SheetTable.letters(column + i) + row, around, writer);
                SheetXml.text(text, around, writer);
                writer.writeEndElement();
            }
        }
    }
}
