package dev.nachlauf.connectors.format.workbook;

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
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;

/**
 * Writes Office Open XML workbooks (ISO/IEC 29500) of one sheet, with numbers, dates and truths in cells of their kind. A
 * number of more digits than a spreadsheet program keeps stands as text, and no text becomes a formula.
 */
public final class XlsxOutput implements OutputFormat {
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
        return SheetRules.OPTIONS;
    }

    @Override
    public FieldDescription demanded(FieldDescription field, FormatOptions options) {
        return SheetRules.demanded(field, options);
    }

    @Override
    public RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) {
        return new Rows(out, SheetRules.name(options), fields);
    }

    private static final class Rows implements RowWriter {
        private final Workbook workbook;
        private final Worksheet sheet;
        private int row = 1;

        Rows(OutputStream out, String name, List<Field> fields) {
            workbook = new Workbook(out, "Nachlauf", "1.0");
            sheet = workbook.newWorksheet(name);
            for (int i = 0; i < fields.size(); i++) {
                sheet.inlineString(0, i, SheetRules.fitting(fields.get(i).name()));
                sheet.style(0, i).bold().set();
            }
            sheet.freezePane(0, 1);
        }

        @Override
        public void row(@Nullable Object[] values) throws IOException {
            SheetRules.requireRoom(row);
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
                case Long number when SheetRules.keeps(number) -> sheet.value(row, column, number);
                case BigDecimal number when SheetRules.keeps(number) -> sheet.value(row, column, number);
                case Boolean truth -> sheet.value(row, column, truth);
                case LocalDate date -> {
                    sheet.value(row, column, date);
                    sheet.style(row, column).format("yyyy-mm-dd").set();
                }
                case LocalDateTime moment -> {
                    sheet.value(row, column, moment);
                    sheet.style(row, column).format("yyyy-mm-dd hh:mm:ss").set();
                }
                default -> sheet.inlineString(row, column, SheetRules.fitting(Values.text(value)));
            }
        }

        @Override
        public void close() throws IOException {
            workbook.close();
        }
    }
}
