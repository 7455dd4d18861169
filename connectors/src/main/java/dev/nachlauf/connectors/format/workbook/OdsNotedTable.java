package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import java.util.List;
import java.util.Set;
import javax.xml.stream.XMLEventWriter;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.events.StartElement;
import javax.xml.stream.events.XMLEvent;

/** A sheet that is passed on event by event, with cells added to its rows; those that get notes are told apart. */
final class OdsNotedTable {
    /** Rows, and what may stand around them; columns come before. */
    private static final Set<String> ROWS = Set.of("table-row", "table-rows", "table-header-rows", "table-row-group");

    private final SheetTable table;
    private final int column;
    private final List<String> heads;
    private final NotesOfPart notes;
    private final XMLEventWriter writer;
    private final OdfWriter odf;

    private final OdsRow.Collector rows = new OdsRow.Collector();
    private long number;
    private long columns;
    private boolean columnsDone;

    /** @param column the first one that is added, from 0 */
    OdsNotedTable(
            SheetTable table, int column, List<String> heads, NotesOfPart notes, XMLEventWriter writer, OdfWriter odf) {
        this.table = table;
        this.column = column;
        this.heads = heads;
        this.notes = notes;
        this.writer = writer;
        this.odf = odf;
    }

    /** Passes an event on, or keeps it until its row is whole. */
    void pass(XMLEvent event) throws XMLStreamException {
        if (event instanceof StartElement start) {
            see(start);
        }
        if (!rows.wants(event)) {
            writer.add(event);
        } else if (rows.take(event)) {
            write(rows.row());
        }
    }

    private void see(StartElement start) throws XMLStreamException {
        String name = start.getName().getLocalPart();
        if (name.equals("table-column")) {
            columns += OdsCells.repeats(start, OdsCells.COLUMNS);
        } else if (ROWS.contains(name) && !columnsDone) {
            lackingColumns();
        }
    }

    /** Rows can't be wider than the columns that the sheet has. */
    private void lackingColumns() throws XMLStreamException {
        columnsDone = true;
        long lacking = column + heads.size() - columns;
        if (lacking > 0) {
            odf.start("table:table-column");
            odf.attribute("table:number-columns-repeated", String.valueOf(lacking));
            odf.end();
        }
    }

    private void write(OdsRow row) throws XMLStreamException {
        long times = row.times();
        if (row.isBlank()) {
            number += times;
            row.write(writer, times);
            return;
        }
        for (long i = 0; i < times; i++) {
            number++;
            boolean heading = number == table.lastHeading() && table.hasNames();
            List<String> texts = heading ? heads : number > table.lastHeading() ? notes.at(number) : null;
            if (texts == null) {
                row.write(writer, 1);
            } else {
                write(row, texts);
            }
        }
    }

    /** The row with texts in the columns that are added. */
    private void write(OdsRow row, List<String> texts) throws XMLStreamException {
        row.start(writer, 1);
        boolean added = false;
        long at = 0;
        for (OdsRow.Part part : row.parts()) {
            long next = at + part.columns();
            if (next <= column || at >= column + heads.size()) {
                part.write(writer);
            } else {
                // nothing but an empty cell stands there
                part.write(writer, column - at);
                added = added || add(texts);
                part.write(writer, next - column - heads.size());
            }
            at = next;
        }
        if (!added) {
            odf.blanks(column - at);
            add(texts);
        }
        row.end(writer);
    }

    private boolean add(List<String> texts) throws XMLStreamException {
        for (String text : texts) {
            odf.cell(text.isEmpty() ? null : text, null);
        }
        return true;
    }
}
