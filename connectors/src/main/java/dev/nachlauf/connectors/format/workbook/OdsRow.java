package dev.nachlauf.connectors.format.workbook;

import com.ctc.wstx.stax.WstxEventFactory;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLEventFactory;
import javax.xml.stream.XMLEventWriter;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.events.Attribute;
import javax.xml.stream.events.StartElement;
import javax.xml.stream.events.XMLEvent;

/** A row of an OpenDocument sheet, taken apart into its cells; rows and cells that are alike are written once with a count. */
final class OdsRow {
    private static final XMLEventFactory EVENTS = new WstxEventFactory();

    private final List<XMLEvent> events;
    private final List<Part> parts = new ArrayList<>();

    private OdsRow(List<XMLEvent> events) {
        this.events = events;
        for (int at = 1; at < events.size() - 1; at = behind(at)) {
            parts.add(new Part(events.subList(at, behind(at))));
        }
    }

    /** A cell, or something that stands between cells. */
    record Part(List<XMLEvent> events) {
        boolean isCell() {
            return events.getFirst() instanceof StartElement start
                    && start.getName().getLocalPart().endsWith("table-cell");
        }

        StartElement cell() {
            return events.getFirst().asStartElement();
        }

        /** How many columns it takes. */
        long columns() {
            return isCell() ? OdsCells.repeats(cell(), OdsCells.COLUMNS) : 0;
        }

        boolean isBlank() {
            return (!isCell() || !OdsCells.isFilled(cell()))
                    && events.stream()
                            .noneMatch(event -> event.isCharacters()
                                    && !event.asCharacters().isWhiteSpace());
        }

        void write(XMLEventWriter writer) throws XMLStreamException {
            for (XMLEvent event : events) {
                writer.add(event);
            }
        }

        /** The same cell as often as that. */
        void write(XMLEventWriter writer, long times) throws XMLStreamException {
            if (times > 0) {
                writer.add(with(cell(), OdsCells.COLUMNS, times));
                for (XMLEvent event : events.subList(1, events.size())) {
                    writer.add(event);
                }
            }
        }
    }

    /** Keeps events until a row is whole. */
    static final class Collector {
        private List<XMLEvent> events = new ArrayList<>();
        private int depth;

        /** Whether an event belongs to a row. */
        boolean wants(XMLEvent event) {
            return depth > 0
                    || event instanceof StartElement start
                            && start.getName().getLocalPart().equals("table-row");
        }

        /** Takes an event; whether the row is whole now. */
        boolean take(XMLEvent event) {
            depth += event.isStartElement() ? 1 : event.isEndElement() ? -1 : 0;
            events.add(event);
            return depth == 0;
        }

        /** The row that is whole. */
        OdsRow row() {
            OdsRow row = new OdsRow(events);
            events = new ArrayList<>();
            return row;
        }
    }

    /** Behind the element that starts there, or the single event. */
    private int behind(int start) {
        int at = start;
        int open = 0;
        do {
            XMLEvent event = events.get(at++);
            open += event.isStartElement() ? 1 : event.isEndElement() ? -1 : 0;
        } while (open > 0);
        return at;
    }

    List<Part> parts() {
        return parts;
    }

    /** How many rows it stands for. */
    long times() {
        return OdsCells.repeats(events.getFirst().asStartElement(), OdsCells.ROWS);
    }

    boolean isBlank() {
        return parts.stream().allMatch(Part::isBlank);
    }

    /** The same row as often as that. */
    void write(XMLEventWriter writer, long times) throws XMLStreamException {
        if (times > 0) {
            start(writer, times);
            for (Part part : parts) {
                part.write(writer);
            }
            end(writer);
        }
    }

    /** The start of as many rows of its looks. */
    void start(XMLEventWriter writer, long times) throws XMLStreamException {
        writer.add(with(events.getFirst().asStartElement(), OdsCells.ROWS, times));
    }

    void end(XMLEventWriter writer) throws XMLStreamException {
        writer.add(events.getLast());
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
