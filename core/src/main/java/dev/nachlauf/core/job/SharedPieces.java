package dev.nachlauf.core.job;

import dev.nachlauf.core.formula.Piece;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Formulas and steps that several jobs use.
 *
 * @param formulas by name, called like functions
 * @param steps lists of steps by name, put in place by {@code include}
 */
public record SharedPieces(Map<String, Piece> formulas, Map<String, List<Step>> steps) {
    /** No pieces at all. */
    public static final SharedPieces NONE = new SharedPieces(Map.of(), Map.of());

    public SharedPieces {
        formulas = Map.copyOf(formulas);
        steps = Map.copyOf(steps);
    }

    /** These and others; where a name stands in both, the others'. */
    public SharedPieces and(SharedPieces others) {
        Map<String, Piece> allFormulas = new HashMap<>(formulas);
        allFormulas.putAll(others.formulas);
        Map<String, List<Step>> allSteps = new HashMap<>(steps);
        allSteps.putAll(others.steps);
        return new SharedPieces(allFormulas, allSteps);
    }
}
