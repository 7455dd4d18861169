package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.workbook.CellNumbers.Shows;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;

/** Which styles of a workbook show a number as a date or a time (ECMA-376, part 1, 18.8). */
final class XlsxStyles {
    /** The formats that need not be written down, as far as they show dates and times (18.8.30). */
    private static final Map<Integer, Shows> KNOWN = Map.of(
            14,
            Shows.DATE,
            15,
            Shows.DATE,
            16,
            Shows.DATE,
            17,
            Shows.DATE,
            18,
            Shows.TIME,
            19,
            Shows.TIME,
            20,
            Shows.TIME,
            21,
            Shows.TIME,
            22,
            Shows.BOTH,
            45,
            Shows.TIME);

    private final Map<Integer, Shows> formats = new HashMap<>(KNOWN);
    private final List<Integer> styles = new ArrayList<>();

    /** The styles of a workbook; it need not have any. */
    static XlsxStyles of(ZipFile zip, String file) throws IOException, XMLStreamException {
        XlsxStyles found = new XlsxStyles();
        if (zip.getEntry(XlsxParts.STYLES) == null) {
            return found;
        }
        XlsxParts.each(zip, file, XlsxParts.STYLES, "numFmt", format -> {
            String code = XlsxParts.attribute(format, "formatCode");
            if (code != null) {
                found.formats.put(number(XlsxParts.attribute(format, "numFmtId")), CellNumbers.shows(code));
            }
        });
        boolean[] cells = {false};
        XlsxParts.eachStart(zip, file, XlsxParts.STYLES, element -> {
            String name = element.getLocalName();
            if (name.equals("cellXfs") || name.equals("cellStyleXfs")) {
                cells[0] = name.equals("cellXfs");
            } else if (name.equals("xf") && cells[0]) {
                found.styles.add(number(XlsxParts.attribute(element, "numFmtId")));
            }
        });
        return found;
    }

    private static int number(@Nullable String text) {
        return text != null && text.matches("\\d{1,9}") ? Integer.parseInt(text) : 0;
    }

    /** What a style shows of a number; {@code style} as cells name it, null for none. */
    Shows shows(@Nullable String style) {
        int index = style == null ? 0 : number(style);
        return index < styles.size() ? formats.getOrDefault(styles.get(index), Shows.NUMBER) : Shows.NUMBER;
    }
}
