package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.workbook.Sheets.CellError;
import dev.nachlauf.connectors.format.workbook.Sheets.Row;
import dev.nachlauf.connectors.format.workbook.Sheets.Rows;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.JoinedReader;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads the chosen sheets one after the other. Columns are matched by name, so sheets may order them differently. */
final class WorkbookReader implements SourceReader {
    private final String file;
    private final Sheets workbook;
    private final List<SheetTable> tables;
    private final List<Detected> options = new ArrayList<>();
    private final List<SourceField> fields;
    private final List<Lack> lacks;
    private @Nullable Rows rows;
    private int table = -1;
    private int[] columns = {};
    private Map<String, String> addresses = Map.of();
    private long number;

    private WorkbookReader(String file, Sheets workbook, SheetChoice choice, FormatOptions stated) {
        this.file = file;
        this.workbook = workbook;
        this.tables = choice.tables();
        Map<String, List<SourceField>> own = new LinkedHashMap<>();
        for (SheetTable one : tables) {
            own.put("the sheet " + one.sheet().name(), fields(one));
        }
        this.fields = JoinedReader.union(List.copyOf(own.values()));
        this.lacks = JoinedReader.lacks(fields, own);
        if (fields.isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_EMPTY,
                    "The workbook " + file + " holds no rows in the chosen sheets.",
                    "Check sheets in the job, or ask the sender for the file again."));
        }
        options.add(choice.option());
        options.add(tables.getFirst().headerRow());
        stated.text(SheetTable.SKIP_ROWS).ifPresent(rows -> options.add(Detected.stated(SheetTable.SKIP_ROWS, rows)));
        Detected lines = tables.getFirst().headerLines();
        if (!lines.evidence().equals(Detected.USUAL)) {
            options.add(lines);
        }
        tables.getFirst().heading().detected().ifPresent(options::add);
    }

    static WorkbookReader open(String file, Sheets workbook, FormatOptions options) {
        try {
            return new WorkbookReader(file, workbook, SheetChoice.of(workbook, options), options);
        } catch (RuntimeException e) {
            workbook.close();
            throw e;
        }
    }

    private static List<SourceField> fields(SheetTable table) {
        List<SourceField> fields = new ArrayList<>();
        for (String name : table.heading().names()) {
            fields.add(new SourceField(name, SheetTable.letters(fields.size())));
        }
        return fields;
    }

    @Override
    public List<SourceField> fields() {
        return fields;
    }

    @Override
    public List<Detected> options() {
        return options;
    }

    @Override
    public List<Lack> lacks() {
        return lacks;
    }

    @Override
    public @Nullable SourceRow next() {
        while (rows != null || table + 1 < tables.size()) {
            Rows current = rows == null ? open(++table) : rows;
            Row row = current.next();
            if (row == null) {
                current.close();
                rows = null;
            } else if (row.number() > tables.get(table).lastHeading()) {
                return row(tables.get(table), row);
            }
        }
        return null;
    }

    private Rows open(int index) {
        SheetTable opened = tables.get(index);
        Map<String, Integer> places = new HashMap<>();
        for (int i = 0; i < fields.size(); i++) {
            places.put(fields.get(i).name(), i);
        }
        List<String> names = opened.heading().names();
        columns = new int[names.size()];
        for (int i = 0; i < columns.length; i++) {
            columns[i] = places.getOrDefault(names.get(i), 0);
        }
        addresses = index == 0 ? Map.of() : opened.addresses();
        Rows next = workbook.open(opened.sheet());
        rows = next;
        return next;
    }

    private SourceRow row(SheetTable from, Row row) {
        number++;
        Origin origin = new Origin(file, from.sheet().name(), row.number(), "", addresses);
        @Nullable Object[] cells = new Object[fields.size()];
        List<Problem> problems = new ArrayList<>(0);
        for (int i = 0; i < columns.length; i++) {
            Object cell = row.cell(i);
            if (cell instanceof CellError error) {
                SourceField field = fields.get(columns[i]);
                problems.add(Problem.inField(
                                ProblemCode.CELL_ERROR,
                                field.name(),
                                error.shown(),
                                "The cell holds no value but an error: " + error.shown() + ".",
                                "Correct it in the workbook.")
                        .withCell(origin.text(field)));
                cell = error.shown();
            }
            cells[columns[i]] = cell;
        }
        surplus(from, row, problems);
        return new SourceRow(number, origin, cells, problems);
    }

    /** A value beside the table belongs to no field: it would be lost without a word. */
    private static void surplus(SheetTable from, Row row, List<Problem> problems) {
        for (int i = from.heading().names().size(); i < row.cells().length; i++) {
            if (row.cell(i) != null) {
                problems.add(Problem.of(
                        ProblemCode.ROW_RAGGED,
                        "The cell " + SheetTable.letters(i) + row.number() + " stands beside the table, where no column"
                                + " has a name.",
                        "Name the column in the header, or empty the cell."));
                return;
            }
        }
    }

    @Override
    public void close() {
        if (rows != null) {
            rows.close();
            rows = null;
        }
        workbook.close();
    }
}
