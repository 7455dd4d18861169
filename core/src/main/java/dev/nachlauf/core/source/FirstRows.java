package dev.nachlauf.core.source;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The first rows of a source; it ends behind them. */
public final class FirstRows implements SourceReader {
    private final SourceReader source;
    private int left;

    public FirstRows(SourceReader source, int rows) {
        this.source = source;
        this.left = rows;
    }

    @Override
    public List<SourceField> fields() {
        return source.fields();
    }

    @Override
    public List<Detected> options() {
        return source.options();
    }

    @Override
    public @Nullable SourceRow next() {
        return left-- > 0 ? source.next() : null;
    }

    @Override
    public void close() {
        source.close();
    }
}
