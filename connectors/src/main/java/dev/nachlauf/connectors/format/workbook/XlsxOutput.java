package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.value.Values;
import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.regex.Pattern;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;

/**
 * Writes Office Open XML workbooks (ISO/IEC 29500) of one sheet, with numbers, dates and truths in cells of their kind. A
 * number of more digits than a spreadsheet program keeps stands as text, and no text becomes a formula.
 */
public final class XlsxOutput implements OutputFormat {
    private static final String SHEET = "sheet";
    private static final Pattern SHEET_NAME = Pattern.compile("[^\\[\\]:*?/\\\\\\p{Cntrl}]{1,31}");
    private static final int MOST_DIGITS = 15;
    private static final int MOST_ROWS = 1_048_576;

    @Override
    public String name() {
        return "xlsx";
    }

    @Override
    public List<String> endings() {
        return List.of("xlsx");
    }

    @Override
    public List<Setting> options() {
        return List.of(Setting.optional(SHEET, "the name of the sheet; Rows unless stated"));
    }

    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        sheet(options);
        return field.atMost(XlsxTables.MOST_CHARACTERS);
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) {
        return new Rows(out, sheet(options), fields);
    }

    private static String sheet(FormatOptions options) {
        String name = options.text(SHEET).orElse("Rows");
        if (!SHEET_NAME.matcher(name).matches()) {
            throw FormatOptions.malformed(
                    SHEET,
                    "The name of a sheet has 1 to 31 characters, and none of [ ] : * ? / \\, but " + name
                            + " was found.");
        }
        return name;
    }

    private static final class Rows implements RowWriter {
        private final Workbook workbook;
        private final Worksheet sheet;
        private int row = 1;

        Rows(OutputStream out, String name, List<Field> fields) {
            workbook = new Workbook(out, "Nachlauf", "1.0");
            sheet = workbook.newWorksheet(name);
            for (int i = 0; i < fields.size(); i++) {
                sheet.inlineString(0, i, XlsxTables.fitting(fields.get(i).name()));
                sheet.style(0, i).bold().set();
            }
            sheet.freezePane(0, 1);
        }

        @Override
        public void row(@Nullable Object[] values) throws IOException {
            if (row == MOST_ROWS) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.OUTPUT_UNFIT,
                        "A sheet holds " + MOST_ROWS + " rows at most.",
                        "Say parts-of: 1000000, which makes several workbooks."));
            }
            for (int column = 0; column < values.length; column++) {
                cell(column, values[column]);
            }
            if (++row % XlsxTables.KEPT_ROWS == 0) {
                sheet.flush();
            }
        }

        private void cell(int column, @Nullable Object value) {
            switch (value) {
                case null -> {
                    // an empty cell
                }
                case Long number
                when Long.toString(Math.abs(number)).length() <= MOST_DIGITS -> sheet.value(row, column, number);
                case BigDecimal number when number.precision() <= MOST_DIGITS -> sheet.value(row, column, number);
                case Boolean truth -> sheet.value(row, column, truth);
                case LocalDate date -> {
                    sheet.value(row, column, date);
                    sheet.style(row, column).format("yyyy-mm-dd").set();
                }
                case LocalDateTime moment -> {
                    sheet.value(row, column, moment);
                    sheet.style(row, column).format("yyyy-mm-dd hh:mm:ss").set();
                }
                default -> sheet.inlineString(row, column, XlsxTables.fitting(Values.text(value)));
            }
        }

        @Override
        public void close() throws IOException {
            workbook.close();
        }
    }
}
