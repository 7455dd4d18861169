package dev.nachlauf.core.example;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A source of one row. */
final class OneRow implements SourceReader {
    private @Nullable SourceRow row;

    OneRow(SourceRow row) {
        this.row = row;
    }

    @Override
    public List<SourceField> fields() {
        return List.of();
    }

    @Override
    public List<Detected> options() {
        return List.of();
    }

    @Override
    public @Nullable SourceRow next() {
        SourceRow next = row;
        row = null;
        return next;
    }

    @Override
    public void close() {
        // nothing is held open
    }
}
