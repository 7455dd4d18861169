package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.Setting;
import java.math.BigDecimal;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** What every spreadsheet program holds to, whatever the format of its workbooks. */
final class SheetRules {
    private static final String SHEET = "sheet";
    private static final Pattern NAME = Pattern.compile("[^\\[\\]:*?/\\\\\\p{Cntrl}]{1,31}");
    private static final int MOST_DIGITS = 15;
    static final int MOST_COLUMNS = 16_384;
    private static final int MOST_ROWS = 1_048_576;
    /** No more fits into a cell. */
    private static final int MOST_CHARACTERS = 32_767;

    private static final Pattern LINE_END = Pattern.compile("\\r\\n?");
    /** Characters that XML 1.0, of which workbooks are made, has no place for. */
    private static final Pattern NO_XML =
            Pattern.compile("[^\\t\\n\\x20-\\uD7FF\\uE000-\\uFFFD\\x{10000}-\\x{10FFFF}]");

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

    /** What a field has to be so that a cell can hold it. */
    static FieldDescription demanded(FieldDescription field, FormatOptions options) {
        name(options);
        return field.atMost(MOST_CHARACTERS);
    }

    /** A text as a cell can hold it. */
    static String fitting(@Nullable String text) {
        if (text == null) {
            return "";
        }
        String plain = NO_XML.matcher(LINE_END.matcher(text).replaceAll("\n")).replaceAll("\uFFFD");
        return plain.length() <= MOST_CHARACTERS ? plain : plain.substring(0, MOST_CHARACTERS - 1) + "…";
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
