package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.RowEdits;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.codehaus.stax2.XMLStreamWriter2;
import org.jspecify.annotations.Nullable;

/**
 * A sheet that is passed on event by event with edits of its rows (ECMA-376, part 1, 18.3). A changed cell keeps its style;
 * rows that are added come right behind the last one that holds something, and look like it. No formula is overwritten.
 */
final class EditedSheet {
    private final String file;
    private final SheetTable table;
    private final long lastRow;
    private final RowEdits edits;
    private final SheetCells cells;
    /** The styles of the last row by column. */
    private final Map<Integer, String> styles = new HashMap<>();

    private long row;
    private long added;
    private boolean complete;

    /** @param lastRow the last row that holds something */
    EditedSheet(String file, SheetTable table, long lastRow, RowEdits edits, SheetCells cells) {
        this.file = file;
        this.table = table;
        this.lastRow = lastRow;
        this.edits = edits;
        this.cells = cells;
    }

    /** Passes on what begins with the event at which the reader stands. */
    void copy(XMLStreamReader2 reader, XMLStreamWriter2 writer) throws XMLStreamException {
        boolean starts = reader.getEventType() == XMLStreamConstants.START_ELEMENT;
        boolean ends = reader.getEventType() == XMLStreamConstants.END_ELEMENT;
        String name = starts || ends ? reader.getLocalName() : "";
        if (starts && name.equals("row")) {
            row(reader, writer);
        } else if (starts && name.equals("dimension")) {
            // it need not be there, and would be wrong now
            skip(reader);
        } else {
            if (ends && name.equals("sheetData")) {
                addAll(reader, writer);
            }
            writer.copyEventFromReader(reader, true);
        }
    }

    private void row(XMLStreamReader2 reader, XMLStreamWriter2 writer) throws XMLStreamException {
        String stated = XlsxParts.attribute(reader, "r");
        row = stated == null ? row + 1 : Long.parseLong(stated);
        if (row > lastRow) {
            addAll(reader, writer);
        }
        RowEdits.Edit edit = row > table.lastHeading() && row <= lastRow
                ? edits.at(table.sheet().name(), row, "")
                : null;
        boolean replaced = row > lastRow && row <= lastRow + added;
        if (replaced || edit != null && edit.gone()) {
            skip(reader);
            return;
        }
        SheetXml.start(reader, writer, "spans", null);
        BitSet open = edit == null ? new BitSet() : (BitSet) edit.changed().clone();
        int column = -1;
        for (reader.next(); !isEnd(reader, "row"); reader.next()) {
            if (reader.getEventType() == XMLStreamConstants.START_ELEMENT
                    && reader.getLocalName().equals("c")) {
                String address = XlsxParts.attribute(reader, "r");
                column = address == null ? column + 1 : SheetXml.column(address);
                fill(edit, open, column, reader, writer);
                cell(edit, column, reader, writer);
                open.clear(column);
            } else {
                writer.copyEventFromReader(reader, true);
            }
        }
        fill(edit, open, Integer.MAX_VALUE, reader, writer);
        writer.copyEventFromReader(reader, true);
    }

    /** Writes changed cells that were not there, as far as they come before a column. */
    private void fill(
            RowEdits.@Nullable Edit edit, BitSet open, int before, XMLStreamReader2 around, XMLStreamWriter2 writer)
            throws XMLStreamException {
        for (int column = open.nextSetBit(0);
                edit != null && column >= 0 && column < before;
                column = open.nextSetBit(column + 1)) {
            cells.write(address(column, row), styles.get(column), edit.cells()[column], around, writer);
            open.clear(column);
        }
    }

    private void cell(RowEdits.@Nullable Edit edit, int column, XMLStreamReader2 reader, XMLStreamWriter2 writer)
            throws XMLStreamException {
        String style = XlsxParts.attribute(reader, "s");
        if (row > table.lastHeading() && row <= lastRow && style != null) {
            styles.put(column, style);
        }
        if (edit != null && edit.changed().get(column)) {
            requireNoFormula(reader, column);
            cells.write(address(column, row), style, edit.cells()[column], reader, writer);
            return;
        }
        writer.copyEventFromReader(reader, true);
        for (int depth = 1; depth > 0; ) {
            depth += step(reader);
            writer.copyEventFromReader(reader, true);
        }
    }

    /** Passes over a cell that is replaced, to its end. */
    private void requireNoFormula(XMLStreamReader2 reader, int column) throws XMLStreamException {
        for (int depth = 1; depth > 0; ) {
            depth += step(reader);
            if (reader.getEventType() == XMLStreamConstants.START_ELEMENT
                    && reader.getLocalName().equals("f")) {
                throw new CannotGoOn(Problem.at(
                        new Place.InFile(file, row),
                        ProblemCode.OUTPUT_UNFIT,
                        "The cell " + address(column, row) + " of the sheet "
                                + table.sheet().name() + " holds a formula, which is not overwritten.",
                        "Take the field out of the map, or put a value into the cell."));
            }
        }
    }

    private static void skip(XMLStreamReader2 reader) throws XMLStreamException {
        for (int depth = 1; depth > 0; ) {
            depth += step(reader);
        }
    }

    private static int step(XMLStreamReader2 reader) throws XMLStreamException {
        return switch (reader.next()) {
            case XMLStreamConstants.START_ELEMENT -> 1;
            case XMLStreamConstants.END_ELEMENT -> -1;
            default -> 0;
        };
    }

    private static boolean isEnd(XMLStreamReader2 reader, String name) {
        return reader.getEventType() == XMLStreamConstants.END_ELEMENT
                && reader.getLocalName().equals(name);
    }

    private static String address(int column, long row) {
        return SheetTable.letters(column) + row;
    }

    private void addAll(XMLStreamReader2 around, XMLStreamWriter2 writer) throws XMLStreamException {
        if (complete) {
            return;
        }
        complete = true;
        for (@Nullable Object[] values = edits.next(); values != null; values = edits.next()) {
            added++;
            long number = lastRow + added;
            SheetRules.requireRoom(Math.toIntExact(number - 1));
            SheetXml.begin("row", around, writer);
            writer.writeAttribute("r", String.valueOf(number));
            for (int column = 0; column < values.length; column++) {
                cells.write(address(column, number), styles.get(column), values[column], around, writer);
            }
            writer.writeEndElement();
        }
    }
}
