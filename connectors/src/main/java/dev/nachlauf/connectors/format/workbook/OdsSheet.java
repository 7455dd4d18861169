package dev.nachlauf.connectors.format.workbook;

import static java.time.format.DateTimeFormatter.ISO_LOCAL_DATE_TIME;

import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/** The content of an OpenDocument workbook of one sheet, written row by row. */
final class OdsSheet {
    private static final String NAMES = "urn:oasis:names:tc:opendocument:xmlns:";
    private static final Map<String, String> SPACES = Map.of(
            "office", NAMES + "office:1.0",
            "table", NAMES + "table:1.0",
            "text", NAMES + "text:1.0",
            "style", NAMES + "style:1.0",
            "number", NAMES + "datastyle:1.0",
            "fo", NAMES + "xsl-fo-compatible:1.0");

    private static final String DATE = "date";
    private static final String MOMENT = "moment";
    private static final String HEAD = "head";

    private final XMLStreamWriter xml;
    private int row;

    OdsSheet(XMLStreamWriter xml, String name, List<String> heads) throws XMLStreamException {
        this.xml = xml;
        xml.writeStartDocument("UTF-8", "1.0");
        start("office:document-content");
        for (Map.Entry<String, String> space : SPACES.entrySet()) {
            xml.writeNamespace(space.getKey(), space.getValue());
        }
        attribute("office:version", "1.3");
        styles();
        start("office:body");
        start("office:spreadsheet");
        start("table:table");
        attribute("table:name", name);
        // the standard wants the columns before the rows
        start("table:table-column");
        attribute("table:number-columns-repeated", String.valueOf(heads.size()));
        xml.writeEndElement();
        start("table:table-row");
        for (String head : heads) {
            text(SheetRules.fitting(head), HEAD);
        }
        xml.writeEndElement();
        row = 1;
    }

    private void styles() throws XMLStreamException {
        start("office:automatic-styles");
        dateStyle("day", List.of("year", "-", "month", "-", "day"));
        dateStyle("second", List.of("year", "-", "month", "-", "day", " ", "hours", ":", "minutes", ":", "seconds"));
        cellStyle(DATE, "day");
        cellStyle(MOMENT, "second");
        cellStyle(HEAD, null);
        xml.writeEndElement();
    }

    /** @param parts words of the standard, and what stands between them */
    private void dateStyle(String name, List<String> parts) throws XMLStreamException {
        start("number:date-style");
        attribute("style:name", name);
        for (String part : parts) {
            if (part.length() == 1) {
                start("number:text");
                xml.writeCharacters(part);
            } else {
                start("number:" + part);
                attribute("number:style", "long");
            }
            xml.writeEndElement();
        }
        xml.writeEndElement();
    }

    /** @param format the style of its dates; null for the heads, which are bold */
    private void cellStyle(String name, @Nullable String format) throws XMLStreamException {
        start("style:style");
        attribute("style:name", name);
        attribute("style:family", "table-cell");
        if (format == null) {
            start("style:text-properties");
            attribute("fo:font-weight", "bold");
            xml.writeEndElement();
        } else {
            attribute("style:data-style-name", format);
        }
        xml.writeEndElement();
    }

    /** Writes a row; null for empty cells. */
    void row(@Nullable Object[] values) throws XMLStreamException {
        SheetRules.requireRoom(row++);
        start("table:table-row");
        for (Object value : values) {
            cell(value);
        }
        xml.writeEndElement();
    }

    private void cell(@Nullable Object value) throws XMLStreamException {
        switch (value) {
            case null -> {
                start("table:table-cell");
                xml.writeEndElement();
            }
            case Long number when SheetRules.keeps(number) -> typed("float", "value", number.toString(), null);
            case BigDecimal number
            when SheetRules.keeps(number) -> typed("float", "value", number.toPlainString(), null);
            case Boolean truth -> typed("boolean", "boolean-value", truth.toString(), null);
            case LocalDate date -> typed("date", "date-value", date.toString(), DATE);
            case LocalDateTime moment -> typed("date", "date-value", ISO_LOCAL_DATE_TIME.format(moment), MOMENT);
            default -> text(SheetRules.fitting(Values.text(value)), null);
        }
    }

    /** Programs show the value in their own way, and take the text where they don't know the type. */
    private void typed(String type, String attribute, String value, @Nullable String style) throws XMLStreamException {
        cell(type, style);
        attribute("office:" + attribute, value);
        start("text:p");
        xml.writeCharacters(value);
        xml.writeEndElement();
        xml.writeEndElement();
    }

    private void cell(String type, @Nullable String style) throws XMLStreamException {
        start("table:table-cell");
        if (style != null) {
            attribute("table:style-name", style);
        }
        attribute("office:value-type", type);
    }

    /** A paragraph for each line; what the standard would take for one space is spelled out. */
    private void text(String text, @Nullable String style) throws XMLStreamException {
        cell("string", style);
        for (String line : text.split("\n", -1)) {
            start("text:p");
            spelled(line);
            xml.writeEndElement();
        }
        xml.writeEndElement();
    }

    private void spelled(String line) throws XMLStreamException {
        int plain = 0;
        for (int at = 0; at < line.length(); at++) {
            boolean tab = line.charAt(at) == '\t';
            boolean lost = line.charAt(at) == ' ' && (at == 0 || at + 1 == line.length() || line.charAt(at - 1) == ' ');
            if (tab || lost) {
                xml.writeCharacters(line.substring(plain, at));
                start(tab ? "text:tab" : "text:s");
                xml.writeEndElement();
                plain = at + 1;
            }
        }
        xml.writeCharacters(line.substring(plain));
    }

    void end() throws XMLStreamException {
        xml.writeEndDocument();
        xml.close();
    }

    private void start(String name) throws XMLStreamException {
        int colon = name.indexOf(':');
        xml.writeStartElement(name.substring(0, colon), name.substring(colon + 1), space(name));
    }

    private void attribute(String name, String value) throws XMLStreamException {
        int colon = name.indexOf(':');
        xml.writeAttribute(name.substring(0, colon), space(name), name.substring(colon + 1), value);
    }

    private static String space(String name) {
        String space = SPACES.get(name.substring(0, name.indexOf(':')));
        if (space == null) {
            throw new IllegalArgumentException(name);
        }
        return space;
    }
}
