package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.TableFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;

/**
 * Writes Office Open XML workbooks (ISO/IEC 29500) of one sheet. Cells have the format of text, so that a spreadsheet
 * program keeps what people write into them as they write it.
 */
public final class XlsxTables implements TableFormat {
    /** So many rows are in memory. */
    static final int KEPT_ROWS = 500;

    @Override
    public String name() {
        return "xlsx";
    }

    @Override
    public TableWriter write(OutputStream out, String name, List<Column> columns) {
        return new Writer(out, name, columns);
    }

    @Override
    public String shown(@Nullable String text) {
        return SheetRules.fitting(text);
    }

    private static final class Writer implements TableWriter {
        private final Workbook workbook;
        private final Worksheet sheet;
        private int row = 1;

        Writer(OutputStream out, String name, List<Column> columns) {
            workbook = new Workbook(out, "Nachlauf", "1.0");
            sheet = workbook.newWorksheet(name);
            for (int i = 0; i < columns.size(); i++) {
                sheet.width(i, columns.get(i).width());
                sheet.inlineString(0, i, SheetRules.fitting(columns.get(i).head()));
                sheet.style(0, i).bold().set();
            }
            sheet.freezePane(0, 1);
        }

        @Override
        public void row(List<@Nullable String> cells) throws IOException {
            for (int column = 0; column < cells.size(); column++) {
                String text = SheetRules.fitting(cells.get(column));
                if (!text.isEmpty()) {
                    sheet.inlineString(row, column, text);
                }
                sheet.style(row, column)
                        .format("@")
                        .verticalAlignment("top")
                        .wrapText(text.indexOf('\n') >= 0)
                        .set();
            }
            if (++row % KEPT_ROWS == 0) {
                sheet.flush();
            }
        }

        @Override
        public void close() throws IOException {
            workbook.close();
        }
    }
}
