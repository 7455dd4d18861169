package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.heading.Heading;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.Setting;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What both kinds of workbook take and how they are told from other archives. */
final class WorkbookOptions {
    static final List<Setting> ALL = List.of(
            Setting.optional(SheetChoice.SHEETS, "all, or names or numbers of sheets"),
            Setting.optional(Heading.HEADER_ROW, "the row with the names, from 1; 0 where there is none"),
            Setting.optional(SheetTable.SKIP_ROWS, "rows at the start that are none of the table, with header-row 0"),
            Setting.optional(
                    Heading.HEADER_LINES, "1, or 2 for a heading of two rows of which the upper spans columns"));

    private WorkbookOptions() {}

    /** The finding about a workbook whose bytes can't be unpacked. */
    static CannotGoOn unreadable(String file) {
        return new CannotGoOn(Problem.of(
                ProblemCode.FILE_MALFORMED,
                "The workbook " + file + " is damaged: its parts can't be unpacked.",
                "Ask the sender for it again."));
    }

    static Optional<Detected> recognise(String format, String file, byte[] start, String first, String second) {
        String text = new String(start, StandardCharsets.ISO_8859_1);
        if (!text.startsWith("PK")) {
            return Optional.empty();
        }
        if (text.contains(first) && text.contains(second)) {
            return Optional.of(new Detected("as", format, 1, "an archive with the parts of a workbook"));
        }
        return file.toLowerCase(Locale.ROOT).endsWith("." + format)
                ? Optional.of(new Detected("as", format, 0.9, "an archive, and the name's ending"))
                : Optional.empty();
    }
}
