package dev.nachlauf.connectors.format.workbook;

import javax.xml.namespace.QName;
import javax.xml.stream.events.Attribute;
import javax.xml.stream.events.StartElement;
import org.jspecify.annotations.Nullable;

/** What rows and cells of OpenDocument say about themselves (ODF 1.3, part 3, 9.1). */
final class OdsCells {
    static final QName ROWS = new QName(OdsSheets.TABLE, "number-rows-repeated");
    static final QName COLUMNS = new QName(OdsSheets.TABLE, "number-columns-repeated");

    private static final QName STYLE = new QName(OdsSheets.TABLE, "style-name");
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
        return isCovered(cell) || cell.getAttributeByName(TYPE) != null || isFormula(cell);
    }

    static boolean isFormula(StartElement cell) {
        return cell.getAttributeByName(FORMULA) != null;
    }

    /** Whether a cell lies under a larger one. */
    static boolean isCovered(StartElement cell) {
        return cell.getName().getLocalPart().startsWith("covered");
    }

    /** The style of a cell; null where it has none of its own. */
    static @Nullable String style(StartElement cell) {
        Attribute style = cell.getAttributeByName(STYLE);
        return style == null ? null : style.getValue();
    }
}
