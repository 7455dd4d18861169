package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.RowEdits;
import java.util.HashMap;
import java.util.Map;
import javax.xml.stream.XMLEventWriter;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.events.XMLEvent;
import org.jspecify.annotations.Nullable;

/**
 * A sheet that is passed on event by event with edits of its rows. A changed cell keeps its style; rows that are added come
 * right behind the last one that holds something, in the place of blank ones, and look like it. No formula is overwritten.
 */
final class OdsEditedTable {
    private final String file;
    private final SheetTable table;
    private final long lastRow;
    private final RowEdits edits;
    private final XMLEventWriter writer;
    private final OdfWriter odf;

    private final OdsRow.Collector rows = new OdsRow.Collector();
    /** The styles of the last row by column. */
    private final Map<Long, String> styles = new HashMap<>();

    private long number;
    private long added;
    private long replaced;

    /** @param lastRow the last row that holds something */
    OdsEditedTable(String file, SheetTable table, long lastRow, RowEdits edits, XMLEventWriter writer, OdfWriter odf) {
        this.file = file;
        this.table = table;
        this.lastRow = lastRow;
        this.edits = edits;
        this.writer = writer;
        this.odf = odf;
    }

    /** Passes an event on, or keeps it until its row is whole. */
    void pass(XMLEvent event) throws XMLStreamException {
        if (!rows.wants(event)) {
            writer.add(event);
        } else if (rows.take(event)) {
            write(rows.row());
        }
    }

    private void write(OdsRow row) throws XMLStreamException {
        long times = row.times();
        if (row.isBlank()) {
            number += times;
            // the sheet doesn't grow where blank rows make room
            long less = number > lastRow ? Math.min(times, added - replaced) : 0;
            replaced += less;
            row.write(writer, times - less);
            return;
        }
        for (long i = 0; i < times; i++) {
            number++;
            RowEdits.Edit edit =
                    number > table.lastHeading() ? edits.at(table.sheet().name(), number, "") : null;
            if (edit == null) {
                row.write(writer, 1);
            } else if (edit.gone()) {
                row.start(writer, 1);
                odf.cell(null, null);
                row.end(writer);
            } else {
                write(row, edit);
            }
            if (number == lastRow) {
                addAll(row);
            }
        }
    }

    private void write(OdsRow row, RowEdits.Edit edit) throws XMLStreamException {
        row.start(writer, 1);
        long at = 0;
        for (OdsRow.Part part : row.parts()) {
            long next = at + part.columns();
            long from = at;
            for (int column = edit.changed().nextSetBit((int) at);
                    column >= 0 && column < next;
                    column = edit.changed().nextSetBit(column + 1)) {
                requireValue(part, column);
                part.write(writer, column - from);
                odf.cell(edit.cells()[column], OdsCells.style(part.cell()));
                from = column + 1L;
            }
            if (from == at) {
                part.write(writer);
            } else {
                part.write(writer, next - from);
            }
            at = next;
        }
        for (int column = edit.changed().nextSetBit((int) at);
                column >= 0;
                column = edit.changed().nextSetBit(column + 1)) {
            odf.blanks(column - at);
            odf.cell(edit.cells()[column], null);
            at = column + 1L;
        }
        row.end(writer);
    }

    private void requireValue(OdsRow.Part part, int column) {
        String why = OdsCells.isFormula(part.cell())
                ? " holds a formula, which is not overwritten."
                : OdsCells.isCovered(part.cell()) ? " is covered by the one beside it." : "";
        if (!why.isEmpty()) {
            throw new CannotGoOn(Problem.at(
                    new Place.InFile(file, number),
                    ProblemCode.OUTPUT_UNFIT,
                    "The cell " + SheetTable.letters(column) + number + " of the sheet "
                            + table.sheet().name() + why,
                    "Take the field out of the map, or put a value into the cell."));
        }
    }

    private void addAll(OdsRow last) throws XMLStreamException {
        if (number > table.lastHeading()) {
            long at = 0;
            for (OdsRow.Part part : last.parts()) {
                String style = part.isCell() ? OdsCells.style(part.cell()) : null;
                for (long i = 0; style != null && i < Math.min(part.columns(), SheetRules.MOST_COLUMNS); i++) {
                    styles.put(at + i, style);
                }
                at += part.columns();
            }
        }
        for (@Nullable Object[] cells = edits.next(); cells != null; cells = edits.next()) {
            added++;
            SheetRules.requireRoom(Math.toIntExact(lastRow + added - 1));
            last.start(writer, 1);
            for (int column = 0; column < cells.length; column++) {
                odf.cell(cells[column], styles.get((long) column));
            }
            last.end(writer);
        }
    }
}
