package dev.nachlauf.connectors.format.workbook;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/** The content of an OpenDocument workbook of one sheet, written row by row. */
final class OdsSheet {
    private static final String DATE = "date";
    private static final String MOMENT = "moment";
    private static final String HEAD = "head";

    private final XMLStreamWriter xml;
    private final OdfWriter odf;
    private int row;

    OdsSheet(XMLStreamWriter xml, String name, List<String> heads) throws XMLStreamException {
        this.xml = xml;
        this.odf = new OdfWriter(xml);
        xml.writeStartDocument("UTF-8", "1.0");
        odf.start("office:document-content");
        odf.declare();
        odf.attribute("office:version", "1.3");
        styles();
        odf.start("office:body");
        odf.start("office:spreadsheet");
        odf.start("table:table");
        odf.attribute("table:name", name);
        // the standard wants the columns before the rows
        odf.start("table:table-column");
        odf.attribute("table:number-columns-repeated", String.valueOf(heads.size()));
        odf.end();
        odf.start("table:table-row");
        for (String head : heads) {
            odf.cell(head, HEAD);
        }
        odf.end();
        row = 1;
    }

    private void styles() throws XMLStreamException {
        odf.start("office:automatic-styles");
        dateStyle("day", List.of("year", "-", "month", "-", "day"));
        dateStyle("second", List.of("year", "-", "month", "-", "day", " ", "hours", ":", "minutes", ":", "seconds"));
        cellStyle(DATE, "day");
        cellStyle(MOMENT, "second");
        cellStyle(HEAD, null);
        odf.end();
    }

    /** @param parts words of the standard, and what stands between them */
    private void dateStyle(String name, List<String> parts) throws XMLStreamException {
        odf.start("number:date-style");
        odf.attribute("style:name", name);
        for (String part : parts) {
            if (part.length() == 1) {
                odf.start("number:text");
                odf.characters(part);
            } else {
                odf.start("number:" + part);
                odf.attribute("number:style", "long");
            }
            odf.end();
        }
        odf.end();
    }

    /** @param format the style of its dates; null for the heads, which are bold */
    private void cellStyle(String name, @Nullable String format) throws XMLStreamException {
        odf.start("style:style");
        odf.attribute("style:name", name);
        odf.attribute("style:family", "table-cell");
        if (format == null) {
            odf.start("style:text-properties");
            odf.attribute("fo:font-weight", "bold");
            odf.end();
        } else {
            odf.attribute("style:data-style-name", format);
        }
        odf.end();
    }

    /** Writes a row; null for empty cells. */
    void row(@Nullable Object[] values) throws XMLStreamException {
        SheetRules.requireRoom(row++);
        odf.start("table:table-row");
        for (Object value : values) {
            odf.cell(value, style(value));
        }
        odf.end();
    }

    private static @Nullable String style(@Nullable Object value) {
        return switch (value) {
            case LocalDate ignored -> DATE;
            case LocalDateTime ignored -> MOMENT;
            case null, default -> null;
        };
    }

    void end() throws XMLStreamException {
        xml.writeEndDocument();
        xml.close();
    }
}
