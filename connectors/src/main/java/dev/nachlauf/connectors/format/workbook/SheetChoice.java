package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.workbook.Sheets.Sheet;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.text.NearestNames;
import java.util.ArrayList;
import java.util.List;

/** Which sheets of a workbook are read: those that the job names, or those that look alike, or the first. */
record SheetChoice(List<SheetTable> tables, Detected option) {
    static final String SHEETS = "sheets";
    private static final String ALL = "all";

    static SheetChoice of(Sheets workbook, FormatOptions options) {
        List<Sheet> visible =
                workbook.sheets().stream().filter(sheet -> !sheet.hidden()).toList();
        String stated = options.text(SHEETS).orElse("");
        if (stated.equals(ALL)) {
            return new SheetChoice(filled(workbook, visible, options), Detected.stated(SHEETS, ALL));
        }
        if (!stated.isEmpty()) {
            List<Sheet> named = new ArrayList<>();
            for (String word : stated.split(",")) {
                named.add(named(workbook.sheets(), word.strip()));
            }
            return new SheetChoice(
                    named.stream()
                            .map(sheet -> SheetTable.of(workbook, sheet, options))
                            .toList(),
                    Detected.stated(SHEETS, stated));
        }
        return detected(filled(workbook, visible, options), workbook.sheets().size() - visible.size());
    }

    /** The one sheet that is read, where rows are to be changed and added. */
    SheetTable only(String file) {
        if (tables.size() != 1) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.OUTPUT_UNFIT,
                    "The rows of " + file + " stand in " + tables.size() + " sheets.",
                    "Say in which one rows are changed and added: format: { sheet: … }."));
        }
        return tables.getFirst();
    }

    /** Sheets without any cell are none of the table. */
    private static List<SheetTable> filled(Sheets workbook, List<Sheet> sheets, FormatOptions options) {
        return sheets.stream()
                .map(sheet -> SheetTable.of(workbook, sheet, options))
                .filter(table -> !table.heading().names().isEmpty())
                .toList();
    }

    private static Sheet named(List<Sheet> sheets, String word) {
        for (Sheet sheet : sheets) {
            if (sheet.name().equals(word)) {
                return sheet;
            }
        }
        for (Sheet sheet : sheets) {
            if (String.valueOf(sheet.number()).equals(word)) {
                return sheet;
            }
        }
        List<String> names = sheets.stream().map(Sheet::name).toList();
        throw new CannotGoOn(Problem.at(
                new Place.InSetting(SHEETS),
                ProblemCode.SETTING_MALFORMED,
                "The workbook has no sheet " + word + ".",
                NearestNames.suggestion(word, names, "It has: " + String.join(", ", names) + ".")));
    }

    private static SheetChoice detected(List<SheetTable> tables, int hidden) {
        String also = hidden == 0 ? "" : "; " + hidden + " hidden ones are left out";
        if (tables.isEmpty()) {
            return new SheetChoice(tables, new Detected(SHEETS, "1", 0, "no sheet holds anything" + also));
        }
        List<String> names = tables.getFirst().heading().names();
        List<SheetTable> alike = tables.stream()
                .filter(table -> table.heading().names().size() == names.size()
                        && table.heading().names().containsAll(names))
                .toList();
        if (tables.size() > 1 && alike.size() == tables.size()) {
            return new SheetChoice(
                    tables,
                    new Detected(
                            SHEETS,
                            ALL,
                            0.9,
                            "all " + tables.size() + " sheets have the same names of columns" + also));
        }
        List<String> others =
                tables.stream().skip(1).map(table -> table.sheet().name()).toList();
        return new SheetChoice(
                List.of(tables.getFirst()),
                new Detected(
                        SHEETS,
                        tables.getFirst().sheet().name(),
                        others.isEmpty() ? 1 : 0.6,
                        (others.isEmpty()
                                        ? "the only sheet that holds anything"
                                        : "the first; others are " + String.join(", ", others))
                                + also));
    }
}
