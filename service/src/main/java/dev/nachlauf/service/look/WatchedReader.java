package dev.nachlauf.service.look;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.SourceFormat.Trailer;
import dev.nachlauf.core.value.Kind;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A reader that tells a watcher of every row. */
final class WatchedReader implements SourceReader {
    private final SourceReader reader;
    private final Runnable watcher;

    WatchedReader(SourceReader reader, Runnable watcher) {
        this.reader = reader;
        this.watcher = watcher;
    }

    @Override
    public @Nullable SourceRow next() {
        watcher.run();
        return reader.next();
    }

    @Override
    public void needOnly(BitSet fields) {
        reader.needOnly(fields);
    }

    @Override
    public List<SourceField> fields() {
        return reader.fields();
    }

    @Override
    public List<Detected> options() {
        return reader.options();
    }

    @Override
    public List<Kind> kinds() {
        return reader.kinds();
    }

    @Override
    public List<Lack> lacks() {
        return reader.lacks();
    }

    @Override
    public Optional<Trailer> trailer() {
        return reader.trailer();
    }

    @Override
    public void close() {
        reader.close();
    }
}
