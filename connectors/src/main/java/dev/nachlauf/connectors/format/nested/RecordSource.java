package dev.nachlauf.connectors.format.nested;

import dev.nachlauf.core.system.Detected;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Records of one file, one after the other. */
public interface RecordSource extends AutoCloseable {
    /** The next record; null at the end. */
    @Nullable
    FlatRecord next();

    /** The names met so far with their address relative to a record, in the order in which they were met. */
    Map<String, String> addresses();

    /** Names met so far that stood several times in one record. */
    default Set<String> repeated() {
        return Set.of();
    }

    /** The options in force. */
    List<Detected> options();

    @Override
    void close();
}
