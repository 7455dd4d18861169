package dev.nachlauf.connectors.format.workbook;

import com.ctc.wstx.stax.WstxEventFactory;
import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Set;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLEventFactory;
import javax.xml.stream.XMLEventWriter;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.events.Attribute;
import javax.xml.stream.events.StartElement;
import javax.xml.stream.events.XMLEvent;
import org.jspecify.annotations.Nullable;

/**
 * A sheet that is passed on event by event, with cells added to its rows. Rows that are alike are written once with a
 * count; those that get notes are told apart.
 */
final class OdsNotedTable {
    private static final XMLEventFactory EVENTS = new WstxEventFactory();
    /** Rows, and what may stand around them; columns come before. */
    private static final Set<String> ROWS = Set.of("table-row", "table-rows", "table-header-rows", "table-row-group");

    private final SheetTable table;
    private final int column;
    private final List<String> heads;
    private final NotesOfPart notes;
    private final XMLEventWriter writer;
    private final OdfWriter odf;

    private final List<XMLEvent> row = new ArrayList<>();
    private int depth;
    private long number;
    private long columns;
    private boolean columnsDone;

    /** @param column the first one that is added, from 0 */
    OdsNotedTable(
            SheetTable table, int column, List<String> heads, NotesOfPart notes, XMLEventWriter writer, OdfWriter odf) {
        this.table = table;
        this.column = column;
        this.heads = heads;
        this.notes = notes;
        this.writer = writer;
        this.odf = odf;
    }

    /** Passes an event on, or keeps it until its row is whole. */
    void pass(XMLEvent event) throws XMLStreamException {
        if (depth > 0 || isStart(event, "table-row")) {
            lackingColumns();
            depth += event.isStartElement() ? 1 : event.isEndElement() ? -1 : 0;
            row.add(event);
            if (depth == 0) {
                write();
                row.clear();
            }
            return;
        }
        if (event instanceof StartElement start) {
            String name = start.getName().getLocalPart();
            if (name.equals("table-column")) {
                columns += OdsCells.repeats(start, OdsCells.COLUMNS);
            } else if (ROWS.contains(name)) {
                lackingColumns();
            }
        }
        writer.add(event);
    }

    /** Rows can't be wider than the columns that the sheet has. */
    private void lackingColumns() throws XMLStreamException {
        long lacking = column + heads.size() - columns;
        if (!columnsDone && lacking > 0) {
            odf.start("table:table-column");
            odf.attribute("table:number-columns-repeated", String.valueOf(lacking));
            odf.end();
        }
        columnsDone = true;
    }

    private static boolean isStart(XMLEvent event, String name) {
        return event instanceof StartElement start
                && start.getName().getLocalPart().equals(name);
    }

    private void write() throws XMLStreamException {
        StartElement start = row.getFirst().asStartElement();
        long times = OdsCells.repeats(start, OdsCells.ROWS);
        if (row.stream().noneMatch(OdsNotedTable::isSomething)) {
            number += times;
            for (XMLEvent event : row) {
                writer.add(event);
            }
            return;
        }
        row.set(0, with(start, OdsCells.ROWS, 1));
        for (long i = 0; i < times; i++) {
            number++;
            boolean heading = number == table.lastHeading() && table.hasNames();
            row(heading ? heads : number > table.lastHeading() ? notes.at(number) : null);
        }
    }

    private static boolean isSomething(XMLEvent event) {
        return event.isCharacters() && !event.asCharacters().isWhiteSpace()
                || event instanceof StartElement start && isCell(event) && OdsCells.isFilled(start);
    }

    private static boolean isCell(XMLEvent event) {
        return event instanceof StartElement start
                && start.getName().getLocalPart().endsWith("table-cell");
    }

    /** The row at hand with texts in the columns that are added; null for none. */
    private void row(@Nullable List<String> texts) throws XMLStreamException {
        writer.add(row.getFirst());
        boolean added = texts == null;
        long at = 0;
        for (int i = 1; i < row.size() - 1; i = behind(i)) {
            long next = isCell(row.get(i)) ? at + OdsCells.repeats(row.get(i).asStartElement(), OdsCells.COLUMNS) : at;
            if (texts == null || next <= column || at >= column + heads.size()) {
                for (XMLEvent event : row.subList(i, behind(i))) {
                    writer.add(event);
                }
            } else {
                // nothing but an empty cell stands there
                blank(row.get(i).asStartElement(), column - at);
                added = added || add(texts);
                blank(row.get(i).asStartElement(), next - column - heads.size());
            }
            at = next;
        }
        if (!added && texts != null) {
            if (at < column) {
                odf.start("table:table-cell");
                odf.attribute("table:number-columns-repeated", String.valueOf(column - at));
                odf.end();
            }
            add(texts);
        }
        writer.add(row.getLast());
    }

    /** Behind the element that starts there, or the single event. */
    private int behind(int start) {
        int at = start;
        int open = 0;
        do {
            XMLEvent event = row.get(at++);
            open += event.isStartElement() ? 1 : event.isEndElement() ? -1 : 0;
        } while (open > 0);
        return at;
    }

    private boolean add(List<String> texts) throws XMLStreamException {
        for (String text : texts) {
            odf.start("table:table-cell");
            if (!text.isEmpty()) {
                odf.attribute("office:value-type", "string");
                odf.paragraphs(SheetRules.fitting(text));
            }
            odf.end();
        }
        return true;
    }

    /** As many of an empty cell, each with its looks. */
    private void blank(StartElement cell, long times) throws XMLStreamException {
        if (times > 0) {
            writer.add(with(cell, OdsCells.COLUMNS, times));
            writer.add(EVENTS.createEndElement(cell.getName(), null));
        }
    }

    /** The element, which has the namespace of the attribute, with another number of times that it stands there. */
    private static StartElement with(StartElement element, QName attribute, long times) {
        List<Attribute> attributes = new ArrayList<>();
        for (Iterator<Attribute> all = element.getAttributes(); all.hasNext(); ) {
            Attribute one = all.next();
            if (!one.getName().equals(attribute)) {
                attributes.add(one);
            }
        }
        if (times > 1) {
            attributes.add(EVENTS.createAttribute(
                    element.getName().getPrefix(),
                    attribute.getNamespaceURI(),
                    attribute.getLocalPart(),
                    String.valueOf(times)));
        }
        return EVENTS.createStartElement(element.getName(), attributes.iterator(), element.getNamespaces());
    }
}
