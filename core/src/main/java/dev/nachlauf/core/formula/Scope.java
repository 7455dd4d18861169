package dev.nachlauf.core.formula;

import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a formula can name.
 *
 * @param shape the slots of the row
 * @param parameters values of the job's parameters; a value may be null
 * @param parameterKinds their kinds, with the same names
 */
public record Scope(Shape shape, Map<String, @Nullable Object> parameters, Map<String, Kind> parameterKinds) {
    /** A scope without parameters. */
    public static Scope of(Shape shape) {
        return new Scope(shape, Map.of(), Map.of());
    }
}
