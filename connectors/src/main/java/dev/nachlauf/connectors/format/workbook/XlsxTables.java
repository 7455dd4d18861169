package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.TableFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.regex.Pattern;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;

/**
 * Writes Office Open XML workbooks (ISO/IEC 29500) of one sheet. Cells have the format of text, so that a spreadsheet
 * program keeps what people write into them as they write it.
 */
public final class XlsxTables implements TableFormat {
    /** Spreadsheet programs agree that no more fits into a cell. */
    static final int MOST_CHARACTERS = 32_767;

    private static final Pattern LINE_END = Pattern.compile("\\r\\n?");
    /** Characters that XML 1.0 has no place for. */
    private static final Pattern NO_XML =
            Pattern.compile("[^\\t\\n\\x20-\\uD7FF\\uE000-\\uFFFD\\x{10000}-\\x{10FFFF}]");

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
        return fitting(text);
    }

    /** A text as a cell can hold it. */
    static String fitting(@Nullable String text) {
        if (text == null) {
            return "";
        }
        String plain = NO_XML.matcher(LINE_END.matcher(text).replaceAll("\n")).replaceAll("\uFFFD");
        return plain.length() <= MOST_CHARACTERS ? plain : plain.substring(0, MOST_CHARACTERS - 1) + "…";
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
                sheet.inlineString(0, i, fitting(columns.get(i).head()));
                sheet.style(0, i).bold().set();
            }
            sheet.freezePane(0, 1);
        }

        @Override
        public void row(List<@Nullable String> cells) throws IOException {
            for (int column = 0; column < cells.size(); column++) {
                String text = fitting(cells.get(column));
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
