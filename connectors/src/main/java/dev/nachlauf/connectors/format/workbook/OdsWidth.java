package dev.nachlauf.connectors.format.workbook;

import javax.xml.stream.events.StartElement;
import javax.xml.stream.events.XMLEvent;

/** How many columns of a sheet hold something; a cell that another one covers does. */
final class OdsWidth {
    private long inRow;
    private long repeats;
    private long widest;

    /** Takes the next event of the sheet. */
    void see(XMLEvent event) {
        if (!(event instanceof StartElement start)) {
            return;
        }
        String name = start.getName().getLocalPart();
        if (name.equals("table-row")) {
            inRow = 0;
        } else if (name.endsWith("table-cell")) {
            repeats = OdsCells.repeats(start, OdsCells.COLUMNS);
            inRow += repeats;
            if (OdsCells.isFilled(start)) {
                filled();
            }
        } else if (name.equals("p") || name.equals("annotation") || name.equals("frame")) {
            // text, notes and pictures stand inside of the cell that was started last
            filled();
        }
    }

    private void filled() {
        widest = Math.max(widest, inRow);
    }

    /** The first column, from 0, behind all that hold something. */
    int cells() {
        return Math.toIntExact(widest);
    }
}
