package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.problem.Problem;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

class TextConditionTest {
    private final List<Problem> problems = new ArrayList<>();

    private boolean holds(String formula, String... cells) {
        return TextCondition.of(Huts.columns(List.of("code", "beds")), FormulaSource.of(formula), problems)
                .orElseThrow(() -> new AssertionError(problems))
                .holds(Arrays.asList(cells));
    }

    @Test
    void everyFieldIsText() {
        assertThat(holds("code = 'H-1'", "H-1", "many")).isTrue();
        assertThat(holds("beds = '8'", "H-1", "8")).isTrue();
        assertThat(holds("beds is null", "H-1", null)).isTrue();
        assertThat(holds("beds is null", "H-1")).as("a short row").isTrue();
    }

    @Test
    void whatCannotBeComputedIsNotTrue() {
        assertThat(holds("cast(beds as integer) > 3", "H-1", "8")).isTrue();
        assertThat(holds("cast(beds as integer) > 3", "H-1", "many")).isFalse();
    }

    @Test
    void aWrongFormulaIsTold() {
        assertThat(TextCondition.of(Huts.columns(List.of("code")), FormulaSource.of("cdoe = 'H-1'"), problems))
                .isEmpty();
        assertThat(problems).extracting(problem -> problem.code().id()).containsExactly("field-unknown");
    }
}
