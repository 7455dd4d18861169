package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.EditsRows;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Optional;

/** Office Open XML workbooks (ISO/IEC 29500). */
public final class XlsxFormat implements SourceFormat, NotesRows, EditsRows {
    @Override
    public String name() {
        return "xlsx";
    }

    @Override
    public List<Setting> options() {
        return WorkbookOptions.ALL;
    }

    @Override
    public Optional<Detected> recognise(String file, byte[] start) {
        return WorkbookOptions.recognise(name(), file, start, "[Content_Types].xml", "xl/");
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        try {
            return WorkbookReader.open(bytes.file(), XlsxSheets.open(bytes.file(), bytes.path()), options);
        } catch (IOException | UncheckedIOException e) {
            throw WorkbookOptions.unreadable(bytes.file());
        }
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, List<String> heads, Notes notes, OutputStream out)
            throws IOException {
        XlsxNotes.copy(bytes, options, heads, notes, out);
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        XlsxEdits.copy(bytes, options, edits, out);
    }
}
