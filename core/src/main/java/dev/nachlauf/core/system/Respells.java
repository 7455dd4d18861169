package dev.nachlauf.core.system;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A target that keeps some values in a spelling of its own, such as those of a uuid, a document or a binary fraction. */
public interface Respells {
    /**
     * The rows with their values as the target would read them back, so that they can be compared with what is stored.
     *
     * @param rows values in the order of {@link TargetUse#fields}; they are left as they are
     * @return the same number of rows in the same order; a value that the target can't take stays as it was sent
     */
    List<@Nullable Object[]> respelled(List<@Nullable Object[]> rows);
}
