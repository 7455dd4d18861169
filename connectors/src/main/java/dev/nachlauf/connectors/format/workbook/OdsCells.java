package dev.nachlauf.connectors.format.workbook;

import javax.xml.namespace.QName;
import javax.xml.stream.events.Attribute;
import javax.xml.stream.events.StartElement;

/** What rows and cells of OpenDocument say about themselves (ODF 1.3, part 3, 9.1). */
final class OdsCells {
    static final QName ROWS = new QName(OdsSheets.TABLE, "number-rows-repeated");
    static final QName COLUMNS = new QName(OdsSheets.TABLE, "number-columns-repeated");

    private static final QName FORMULA = new QName(OdsSheets.TABLE, "formula");
    private static final QName TYPE = new QName(OdsSheets.OFFICE, "value-type");

    private OdsCells() {}

    /** How often an element stands there, which is written once. */
    static long repeats(StartElement element, QName attribute) {
        Attribute times = element.getAttributeByName(attribute);
        return times != null && times.getValue().matches("[1-9]\\d{0,6}") ? Long.parseLong(times.getValue()) : 1;
    }

    /** Whether a cell is more than a place: it has a value or a formula, or another one covers it. */
    static boolean isFilled(StartElement cell) {
        return cell.getName().getLocalPart().startsWith("covered")
                || cell.getAttributeByName(TYPE) != null
                || cell.getAttributeByName(FORMULA) != null;
    }
}
