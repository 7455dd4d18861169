package dev.nachlauf.core.issue;

import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.step.FileRecords;
import dev.nachlauf.core.step.FileRecords.Wanted;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.nio.file.Path;
import java.util.List;

/**
 * How the rows of a standing file are read: the fields that a run writes as values of their kinds, all else as text.
 *
 * @param key the fields by which rows are found
 * @param fields those that the run writes, the key's among them
 */
record StandingRows(StandingFile file, RecordDescription records, List<String> key, List<String> fields) {
    /** Rows that are found by key; to be closed. */
    FileRecords found(Path scratch) {
        return FileRecords.read(new Wanted(key, fields), columns(), file.read(), scratch);
    }

    /** Gives every row with its key. */
    void each(FileRecords.Use use) {
        FileRecords.each(new Wanted(key, key), columns(), file.read(), use);
    }

    private List<SourceColumn> columns() {
        return file.columns().stream()
                .map(name -> new SourceColumn(new SourceField(name, ""), new Reading(kind(name), null, null), ""))
                .toList();
    }

    private Kind kind(String column) {
        return fields.contains(column)
                ? records.field(column).map(FieldDescription::kind).orElse(Kind.TEXT)
                : Kind.TEXT;
    }
}
