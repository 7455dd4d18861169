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

/** OpenDocument workbooks (ISO/IEC 26300). */
public final class OdsFormat implements SourceFormat, NotesRows, EditsRows {
    @Override
    public String name() {
        return "ods";
    }

    @Override
    public List<Setting> options() {
        return WorkbookOptions.ALL;
    }

    @Override
    public Optional<Detected> recognise(String file, byte[] start) {
        return WorkbookOptions.recognise(name(), file, start, "mimetype", "opendocument.spreadsheet");
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        try {
            return WorkbookReader.open(bytes.file(), OdsSheets.open(bytes.file(), bytes.path()), options);
        } catch (IOException | UncheckedIOException e) {
            throw WorkbookOptions.unreadable(bytes.file());
        }
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, List<String> heads, Notes notes, OutputStream out)
            throws IOException {
        OdsNotes.copy(bytes, options, heads, notes, out);
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        OdsEdits.copy(bytes, options, edits, out);
    }
}
