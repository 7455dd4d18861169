package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A condition over cells as they stand in the source: each field is text, whatever a job makes of it. */
public final class TextCondition {
    private final Evaluator evaluator;
    private final int columns;
    private final int slots;

    private TextCondition(Evaluator evaluator, int columns, int slots) {
        this.evaluator = evaluator;
        this.columns = columns;
        this.slots = slots;
    }

    /** The condition that a formula states; empty where it is wrong, which is among the problems. */
    public static Optional<TextCondition> of(
            List<SourceColumn> columns, FormulaSource formula, List<Problem> problems) {
        List<SourceColumn> texts = columns.stream()
                .map(column -> SourceColumn.text(column.field()))
                .toList();
        RowScope scope = RowScope.of(texts, List.of(), Surroundings.NONE);
        return scope.check(formula, Kind.BOOLEAN, problems)
                .map(checked -> new TextCondition(checked.evaluator(), texts.size(), scope.slots()));
    }

    /** Whether it is true of these cells; it isn't where it can't be computed. */
    public boolean holds(List<@Nullable String> cells) {
        @Nullable Object[] row = new Object[slots];
        for (int column = 0; column < Math.min(columns, cells.size()); column++) {
            row[column] = cells.get(column);
        }
        try {
            return Boolean.TRUE.equals(evaluator.evaluate(row));
        } catch (BrokenInput | ValueProblem e) {
            return false;
        }
    }
}
