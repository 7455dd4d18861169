package dev.nachlauf.service.reject;

import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.TableFormat;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.web.Masked;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * A workbook of rejects as it came back: every row with the number of its reject, in any order, some of them perhaps
 * removed. A row that was added, or a column that the source doesn't have, is an error with its place.
 */
final class MendedSheet {
    /** More than that is mended in the file they came from. */
    static final int MOST_ROWS = 50_000;

    private static final int MOST_PROBLEMS = 20;
    private static final String AGAIN =
            "Send back the workbook that rejects export has written, with its columns in brackets.";

    private final SortedMap<Long, Line> lines = new TreeMap<>();

    /** A row of it: what stands in the columns of the source. */
    record Line(String place, int edition, Map<String, String> cells) {}

    private MendedSheet() {}

    /** The rows by the numbers of their rejects. */
    SortedMap<Long, Line> lines() {
        return lines;
    }

    /** The row of a reject that is in it. */
    Line line(long reject) {
        return Objects.requireNonNull(lines.get(reject));
    }

    /** @param header the columns of the source */
    static MendedSheet read(SourceReader reader, List<String> header) {
        List<String> columns = reader.fields().stream().map(SourceField::name).toList();
        List<Problem> problems = new ArrayList<>();
        for (String own : List.of(RejectSheet.REJECT, RejectSheet.EDITION)) {
            if (!columns.contains(own)) {
                problems.add(Problem.of(ProblemCode.SHEET_UNFIT, "The column " + own + " is missing.", AGAIN));
            }
        }
        CannotGoOn.overErrorsAmong(problems);
        MendedSheet sheet = new MendedSheet();
        Set<String> unknown = new TreeSet<>(columns);
        unknown.removeAll(header);
        RejectSheet.OURS.forEach(unknown::remove);
        for (SourceRow row = reader.next(); row != null && problems.size() < MOST_PROBLEMS; row = reader.next()) {
            Map<String, String> cells = cells(row, columns);
            for (String column : List.copyOf(unknown)) {
                // an empty column without a head is what is left where somebody has cleared one
                if (!String.valueOf(cells.remove(column)).isBlank()) {
                    unknown.remove(column);
                    problems.add(Problem.of(
                            ProblemCode.FIELD_UNKNOWN,
                            "The source has no column " + column + ".",
                            "It has: " + String.join(", ", header) + "."));
                }
            }
            sheet.add(row.origin().text(), cells, problems);
        }
        CannotGoOn.overErrorsAmong(problems);
        return sheet;
    }

    private static Map<String, String> cells(SourceRow row, List<String> columns) {
        Map<String, String> cells = new TreeMap<>();
        for (int column = 0; column < columns.size(); column++) {
            Object cell = column < row.width() ? row.cell(column) : null;
            cells.put(columns.get(column), cell == null ? "" : String.valueOf(Values.text(cell)));
        }
        return cells;
    }

    private void add(String place, Map<String, String> cells, List<Problem> problems) {
        String reject = String.valueOf(cells.remove(RejectSheet.REJECT));
        String edition = String.valueOf(cells.remove(RejectSheet.EDITION));
        RejectSheet.OURS.forEach(cells::remove);
        if (!isNumber(reject) || !isNumber(edition)) {
            problems.add(Problem.of(
                    ProblemCode.SHEET_UNFIT,
                    "This is not a row of a reject: " + place + ".",
                    "Remove it. Rows that no run has rejected are loaded with a file of their own."));
        } else if (lines.putIfAbsent(Long.valueOf(reject), new Line(place, Integer.parseInt(edition), cells)) != null) {
            problems.add(Problem.of(
                    ProblemCode.SHEET_UNFIT,
                    "Reject " + reject + " stands here a second time: " + place + ".",
                    "Remove one of the two rows."));
        } else if (lines.size() > MOST_ROWS) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SHEET_UNFIT,
                    "The workbook has more than " + MOST_ROWS + " rows.",
                    "Mend so many in the file that they came from, and load it again."));
        }
    }

    private static boolean isNumber(String text) {
        return text.matches("\\d{1,9}");
    }

    /**
     * What a row says otherwise than its reject. A column that is not there says nothing, nor does a cell whose value was kept
     * from whoever has mended the others.
     */
    static Map<String, String> corrections(Line line, RejectView reject, TableFormat format) {
        Map<String, String> corrections = new TreeMap<>();
        for (int column = 0; column < reject.header().size(); column++) {
            String name = reject.header().get(column);
            String now = line.cells().get(name);
            boolean kept = Masked.HIDDEN.equals(now);
            if (now != null && !kept && !same(now, format.shown(RejectSheet.cell(reject, column)))) {
                corrections.put(name, now);
            }
        }
        return corrections;
    }

    /** A workbook knows no cell with nothing but blanks in it. */
    private static boolean same(String now, String before) {
        return now.equals(before) || now.isBlank() && before.isBlank();
    }
}
