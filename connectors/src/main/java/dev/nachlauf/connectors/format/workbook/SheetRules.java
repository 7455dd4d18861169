package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.Setting;
import java.math.BigDecimal;
import java.util.List;
import java.util.regex.Pattern;

/** What every spreadsheet program holds to, whatever the format of its workbooks. */
final class SheetRules {
    private static final String SHEET = "sheet";
    private static final Pattern NAME = Pattern.compile("[^\\[\\]:*?/\\\\\\p{Cntrl}]{1,31}");
    private static final int MOST_DIGITS = 15;
    private static final int MOST_ROWS = 1_048_576;

    static final List<Setting> OPTIONS = List.of(Setting.optional(SHEET, "the name of the sheet; Rows unless stated"));

    private SheetRules() {}

    /**
     * The name of the sheet that is written.
     *
     * @throws CannotGoOn where no sheet can have it
     */
    static String name(FormatOptions options) {
        String name = options.text(SHEET).orElse("Rows");
        if (!NAME.matcher(name).matches()) {
            throw FormatOptions.malformed(
                    SHEET,
                    "The name of a sheet has 1 to 31 characters, and none of [ ] : * ? / \\, but " + name
                            + " was found.");
        }
        return name;
    }

    /** Whether a cell of numbers keeps every digit of it. */
    static boolean keeps(Number number) {
        return switch (number) {
            case BigDecimal decimal -> decimal.precision() <= MOST_DIGITS;
            default -> Long.toString(Math.abs(number.longValue())).length() <= MOST_DIGITS;
        };
    }

    /** @param row from 0, the heads */
    static void requireRoom(int row) {
        if (row >= MOST_ROWS) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.OUTPUT_UNFIT,
                    "A sheet holds " + MOST_ROWS + " rows at most.",
                    "Say parts-of: 1000000, which makes several workbooks."));
        }
    }
}
