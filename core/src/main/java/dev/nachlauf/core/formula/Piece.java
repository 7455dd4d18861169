package dev.nachlauf.core.formula;

import dev.nachlauf.core.record.Field;
import java.util.List;

/**
 * A formula with a name and parameters of its own, which other formulas call like a function.
 *
 * @param takes its parameters; its formula sees nothing else
 */
public record Piece(String name, List<Field> takes, FormulaSource formula) {
    public Piece {
        takes = List.copyOf(takes);
    }

    /** The signature for people. */
    public String signature() {
        return name + "(" + String.join(", ", takes.stream().map(Field::name).toList()) + ")";
    }
}
