package dev.nachlauf.core.text;

import java.util.regex.Pattern;

/** Text from files and systems, made harmless for spreadsheet programs that open a delimited file. */
public final class SpreadsheetText {
    /** Starts a formula, unless it is the sign of a number or of a telephone number. */
    private static final Pattern FORMULA = Pattern.compile("(?s)[=@\\t\\r].*|[+-](?![0-9 ().,/-]*$).*");

    private SpreadsheetText() {}

    /** A cell that no program takes for a formula: such a text gets an apostrophe in front (OWASP, CSV injection). */
    public static String guarded(String cell) {
        return FORMULA.matcher(cell).matches() ? "'" + cell : cell;
    }
}
