package dev.nachlauf.core.source;

import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Records of a system as rows, for looking at them; a run reads what was kept instead. */
public class CursorReader implements SourceReader {
    private final String name;
    private final RecordCursor cursor;
    private long number;

    public CursorReader(String name, RecordCursor cursor) {
        this.name = name;
        this.cursor = cursor;
    }

    /** The records that a query finds in a system, which is closed together with the reader. */
    public static SourceReader over(String name, ReadsRecords system, RecordQuery query) {
        try {
            return new CursorReader(name, system.read(query)) {
                @Override
                public void close() {
                    super.close();
                    system.close();
                }
            };
        } catch (RuntimeException e) {
            system.close();
            throw e;
        }
    }

    @Override
    public List<SourceField> fields() {
        return cursor.fields().stream()
                .map(field -> new SourceField(field.name(), field.name()))
                .toList();
    }

    @Override
    public List<Kind> kinds() {
        return cursor.fields().stream().map(Field::kind).toList();
    }

    @Override
    public List<Detected> options() {
        return List.of();
    }

    @Override
    public @Nullable SourceRow next() {
        Object[] record = cursor.next();
        if (record == null) {
            return null;
        }
        number++;
        return new SourceRow(number, new Origin(name, "", number, "record " + number), record);
    }

    @Override
    public void close() {
        cursor.close();
    }
}
