package dev.nachlauf.connectors.format.workbook;

import static java.time.format.DateTimeFormatter.ISO_LOCAL_DATE_TIME;

import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/** Writes elements of OpenDocument by their usual names, such as {@code table:table-cell}, whatever a document calls them. */
final class OdfWriter {
    private static final String NAMES = "urn:oasis:names:tc:opendocument:xmlns:";
    private static final Map<String, String> SPACES = Map.of(
            "office", NAMES + "office:1.0",
            "table", NAMES + "table:1.0",
            "text", NAMES + "text:1.0",
            "style", NAMES + "style:1.0",
            "number", NAMES + "datastyle:1.0",
            "fo", NAMES + "xsl-fo-compatible:1.0");

    private final XMLStreamWriter xml;

    OdfWriter(XMLStreamWriter xml) {
        this.xml = xml;
    }

    /** Declares all that we write, at the element that was started. */
    void declare() throws XMLStreamException {
        for (Map.Entry<String, String> space : SPACES.entrySet()) {
            if (xml.getPrefix(space.getValue()) == null) {
                xml.writeNamespace(space.getKey(), space.getValue());
            }
        }
    }

    void start(String name) throws XMLStreamException {
        String space = space(name);
        String known = xml.getPrefix(space);
        xml.writeStartElement(known == null ? prefix(name) : known, local(name), space);
        if (known == null) {
            xml.writeNamespace(prefix(name), space);
        }
    }

    void attribute(String name, String value) throws XMLStreamException {
        String space = space(name);
        String known = xml.getPrefix(space);
        if (known == null) {
            xml.writeNamespace(prefix(name), space);
        }
        xml.writeAttribute(known == null ? prefix(name) : known, space, local(name), value);
    }

    void end() throws XMLStreamException {
        xml.writeEndElement();
    }

    /**
     * Writes a cell. Programs show a value in their own way, and take the text where they don't know the type.
     *
     * @param value null for an empty cell
     * @param style its style; null for none
     */
    void cell(@Nullable Object value, @Nullable String style) throws XMLStreamException {
        start("table:table-cell");
        if (style != null) {
            attribute("table:style-name", style);
        }
        switch (value) {
            case null -> {}
            case Long number when SheetRules.keeps(number) -> typed("float", "value", number.toString());
            case BigDecimal number when SheetRules.keeps(number) -> typed("float", "value", number.toPlainString());
            case Boolean truth -> typed("boolean", "boolean-value", truth.toString());
            case LocalDate date -> typed("date", "date-value", date.toString());
            case LocalDateTime moment -> typed("date", "date-value", ISO_LOCAL_DATE_TIME.format(moment));
            default -> {
                attribute("office:value-type", "string");
                paragraphs(SheetRules.fitting(Values.text(value)));
            }
        }
        end();
    }

    private void typed(String type, String attribute, String value) throws XMLStreamException {
        attribute("office:value-type", type);
        attribute("office:" + attribute, value);
        start("text:p");
        characters(value);
        end();
    }

    /** Empty cells that take so many columns. */
    void blanks(long columns) throws XMLStreamException {
        if (columns > 0) {
            start("table:table-cell");
            attribute("table:number-columns-repeated", String.valueOf(columns));
            end();
        }
    }

    void characters(String text) throws XMLStreamException {
        xml.writeCharacters(text);
    }

    /** A paragraph for each line; what the standard would take for one space is spelled out. */
    void paragraphs(String text) throws XMLStreamException {
        for (String line : text.split("\n", -1)) {
            start("text:p");
            spelled(line);
            end();
        }
    }

    private void spelled(String line) throws XMLStreamException {
        int plain = 0;
        for (int at = 0; at < line.length(); at++) {
            boolean tab = line.charAt(at) == '\t';
            boolean lost = line.charAt(at) == ' ' && (at == 0 || at + 1 == line.length() || line.charAt(at - 1) == ' ');
            if (tab || lost) {
                characters(line.substring(plain, at));
                start(tab ? "text:tab" : "text:s");
                end();
                plain = at + 1;
            }
        }
        characters(line.substring(plain));
    }

    private static String prefix(String name) {
        return name.substring(0, name.indexOf(':'));
    }

    private static String local(String name) {
        return name.substring(name.indexOf(':') + 1);
    }

    private static String space(String name) {
        String space = SPACES.get(prefix(name));
        if (space == null) {
            throw new IllegalArgumentException(name);
        }
        return space;
    }
}
