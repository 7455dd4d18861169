package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.workbook.CellNumbers.Shows;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLStreamWriter2;
import org.jspecify.annotations.Nullable;

/** Writes cells of values into a sheet that has its styles already. */
record SheetCells(XlsxStyles styles, boolean from1904) {
    /**
     * Writes a cell.
     *
     * @param style its style; null for none
     */
    void write(
            String address,
            @Nullable String style,
            @Nullable Object value,
            XMLStreamReader around,
            XMLStreamWriter2 writer)
            throws XMLStreamException {
        if (value == null && style == null) {
            return;
        }
        SheetXml.cell(address, around, writer);
        if (style != null) {
            writer.writeAttribute("s", style);
        }
        BigDecimal number = value == null ? null : number(value, styles.shows(style));
        if (number != null) {
            value(number.toPlainString(), around, writer);
        } else if (value instanceof Boolean truth) {
            writer.writeAttribute("t", "b");
            value(truth ? "1" : "0", around, writer);
        } else if (value != null) {
            SheetXml.text(SheetRules.fitting(Values.text(value)), around, writer);
        }
        writer.writeEndElement();
    }

    private static void value(String text, XMLStreamReader around, XMLStreamWriter2 writer) throws XMLStreamException {
        SheetXml.begin("v", around, writer);
        writer.writeCharacters(text);
        writer.writeEndElement();
    }

    /** A number, or a date or time where the style shows it so; null for what stays text. */
    private @Nullable BigDecimal number(Object value, Shows shows) {
        return switch (value) {
            case Long whole when SheetRules.keeps(whole) && shows == Shows.NUMBER -> BigDecimal.valueOf(whole);
            case BigDecimal exact when SheetRules.keeps(exact) && shows == Shows.NUMBER -> exact;
            case LocalDate date
            when shows == Shows.DATE || shows == Shows.BOTH -> WorkbookDates.serial(date.atStartOfDay(), from1904);
            case LocalDateTime moment when shows == Shows.BOTH -> WorkbookDates.serial(moment, from1904);
            case LocalTime time when shows == Shows.TIME -> WorkbookDates.fraction(time);
            default -> null;
        };
    }
}
