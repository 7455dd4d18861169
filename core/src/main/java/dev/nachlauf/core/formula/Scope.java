package dev.nachlauf.core.formula;

import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a formula can name.
 *
 * @param shape the slots of the row
 * @param surroundings what does not change from row to row
 * @param below names that are made further down, for a better message; one that ends in a point stands for all it begins
 * @param aggregation lets the formula speak of many rows; null where it speaks of one
 */
public record Scope(
        Shape shape,
        Surroundings surroundings,
        Set<String> below,
        @Nullable Aggregation aggregation) {
    public Scope {
        below = Set.copyOf(below);
    }

    /** A scope of one row. */
    public Scope(Shape shape, Surroundings surroundings) {
        this(shape, surroundings, Set.of(), null);
    }

    /** Whether a name is made further down. */
    boolean isBelow(String name) {
        return below.stream().anyMatch(one -> one.equals(name) || one.endsWith(".") && name.startsWith(one));
    }

    /** A scope without parameters. */
    public static Scope of(Shape shape) {
        return new Scope(shape, Surroundings.NONE);
    }

    /** A value that is the same for every row; null where it is null. */
    public record Fixed(Kind kind, @Nullable Object value) {}

    /**
     * What all formulas of a run share.
     *
     * @param parameters the job's parameters
     * @param facts facts of the run, such as {@code run.user}
     * @param translations crosswalks by name
     * @param pieces formulas that can be called by name
     */
    public record Surroundings(
            Map<String, Fixed> parameters,
            Map<String, Fixed> facts,
            Map<String, Translation> translations,
            Map<String, Piece> pieces) {
        /** Nothing at all. */
        public static final Surroundings NONE = new Surroundings(Map.of(), Map.of(), Map.of(), Map.of());

        public Surroundings {
            parameters = Map.copyOf(parameters);
            facts = Map.copyOf(facts);
            translations = Map.copyOf(translations);
            pieces = Map.copyOf(pieces);
        }

        /** These parameters, and nothing else. */
        public static Surroundings of(Map<String, Fixed> parameters) {
            return new Surroundings(parameters, Map.of(), Map.of(), Map.of());
        }

        /** The same with other translations. */
        public Surroundings translating(Map<String, Translation> others) {
            return new Surroundings(parameters, facts, others, pieces);
        }
    }
}
