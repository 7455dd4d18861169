package dev.nachlauf.service.store;

import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** The names under which a column of a source is kept; the kind is a word in capitals. */
record StoredColumn(Field field, Read reading, String question) {
    record Field(String name, String address) {}

    record Read(
            String kind, @Nullable String pattern, @Nullable String locale) {}

    static StoredColumn of(SourceColumn column) {
        Reading reading = column.reading();
        return new StoredColumn(
                new Field(column.field().name(), column.field().address()),
                new Read(reading.kind().word().toUpperCase(Locale.ROOT), reading.pattern(), reading.locale()),
                column.question());
    }

    SourceColumn column() {
        Kind kind = Kind.of(reading.kind.toLowerCase(Locale.ROOT)).orElseThrow();
        return new SourceColumn(
                new SourceField(field.name, field.address),
                new Reading(kind, reading.pattern, reading.locale),
                question);
    }
}
