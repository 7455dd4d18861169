package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.workbook.CellNumbers.Shows;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.SheetVisibility;
import org.jspecify.annotations.Nullable;

/** An Office Open XML workbook, row by row. */
final class XlsxSheets implements Sheets {

    private final String file;
    private final ReadableWorkbook workbook;
    private final List<org.dhatim.fastexcel.reader.Sheet> library;
    private final List<Sheet> sheets = new ArrayList<>();
    private final Map<String, Shows> formats = new HashMap<>();

    private XlsxSheets(String file, ReadableWorkbook workbook) {
        this.file = file;
        this.workbook = workbook;
        this.library = workbook.getSheets().toList();
        for (org.dhatim.fastexcel.reader.Sheet sheet : library) {
            sheets.add(new Sheet(sheets.size() + 1, sheet.getName(), sheet.getVisibility() != SheetVisibility.VISIBLE));
        }
    }

    static XlsxSheets open(String file, Path path) throws IOException {
        WorkbookBounds.check(file, path);
        try {
            return new XlsxSheets(file, opened(path));
        } catch (RuntimeException | IOException e) {
            throw malformed(file, "", 1);
        }
    }

    /** A workbook need not have styles (ECMA-376, part 1, 12.3.20); then no number of it is a date. */
    private static ReadableWorkbook opened(Path path) throws IOException {
        try {
            return new ReadableWorkbook(path.toFile(), new ReadingOptions(true, true));
        } catch (RuntimeException e) {
            return new ReadableWorkbook(path.toFile(), new ReadingOptions(false, true));
        }
    }

    private static CannotGoOn malformed(String file, String where, long row) {
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, row),
                ProblemCode.FILE_MALFORMED,
                "The workbook can't be parsed" + where + ".",
                "Open it in a spreadsheet program and save it again, or ask the sender for it."));
    }

    /** Whether its days are counted from 1904. */
    boolean from1904() {
        return workbook.isDate1904();
    }

    @Override
    public List<Sheet> sheets() {
        return sheets;
    }

    @Override
    public Rows open(Sheet sheet) {
        try {
            return new SheetRows(sheet, library.get(sheet.number() - 1).openStream());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (RuntimeException e) {
            throw malformed(file, " at sheet " + sheet.name(), 1);
        }
    }

    @Override
    public void close() {
        try {
            workbook.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private final class SheetRows implements Rows {
        private final Sheet sheet;
        private final Stream<org.dhatim.fastexcel.reader.Row> stream;
        private final Iterator<org.dhatim.fastexcel.reader.Row> rows;
        private long last;

        SheetRows(Sheet sheet, Stream<org.dhatim.fastexcel.reader.Row> stream) {
            this.sheet = sheet;
            this.stream = stream;
            this.rows = stream.iterator();
        }

        @Override
        public @Nullable Row next() {
            try {
                while (rows.hasNext()) {
                    org.dhatim.fastexcel.reader.Row row = rows.next();
                    last = row.getRowNum();
                    @Nullable Object[] cells = cells(row);
                    if (cells != null) {
                        return new Row(last, cells);
                    }
                }
                return null;
            } catch (RuntimeException e) {
                // the library throws whatever its parts do
                throw malformed(file, " behind row " + last + " of sheet " + sheet.name(), Math.max(1, last));
            }
        }

        @Override
        public void close() {
            stream.close();
        }
    }

    /** Null where every cell is empty. */
    private @Nullable Object @Nullable [] cells(org.dhatim.fastexcel.reader.Row row) {
        int width = Math.min(row.getCellCount(), SheetRules.MOST_COLUMNS);
        @Nullable Object[] cells = new Object[width];
        boolean filled = false;
        for (int i = 0; i < width; i++) {
            if (row.hasCell(i)) {
                cells[i] = value(row.getCell(i));
                filled |= cells[i] != null;
            }
        }
        return filled ? cells : null;
    }

    private @Nullable Object value(@Nullable Cell cell) {
        if (cell == null || cell.getType() == CellType.EMPTY) {
            return null;
        }
        Object value = cell.getValue();
        if (cell.getType() == CellType.ERROR) {
            return new CellError(value == null ? "#ERROR" : value.toString());
        }
        return switch (value) {
            case BigDecimal number -> number(cell, number);
            case Boolean truth -> truth;
            case null -> cell.getType() == CellType.FORMULA ? new CellError("formula without a result") : null;
            default -> text(cell, value.toString());
        };
    }

    private static @Nullable Object text(Cell cell, String text) {
        if (cell.getType() == CellType.FORMULA && isError(text)) {
            return new CellError(text);
        }
        return text.isBlank() ? null : text;
    }

    private static boolean isError(String text) {
        return text.matches("#(?:NULL!|DIV/0!|VALUE!|REF!|NAME\\?|NUM!|N/A|SPILL!|CALC!)");
    }

    private Object number(Cell cell, BigDecimal number) {
        String format = cell.getDataFormatString();
        if (format == null) {
            return CellNumbers.value(number);
        }
        Shows shows = formats.computeIfAbsent(format, CellNumbers::shows);
        if (shows == Shows.NUMBER || number.signum() < 0) {
            return CellNumbers.value(number, format);
        }
        return CellNumbers.moment(WorkbookDates.of(number, workbook.isDate1904()), shows);
    }
}
