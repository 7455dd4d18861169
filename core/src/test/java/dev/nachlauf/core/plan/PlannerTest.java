package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.RecordDescription;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class PlannerTest {
    @Test
    void readsOnlyTheColumnsThatAreUsed() {
        Plan plan = Huts.plan();
        assertThat(plan.inputs())
                .extracting(Plan.Input::name)
                .containsExactly("Hut no.", "name", "beds", "price", "status");
        assertThat(plan.main().keyNames()).containsExactly("hut_code");
        assertThat(plan.main().keyIsUnique()).isTrue();
        assertThat(plan.slots())
                .as("five columns, three facts of the row, one step")
                .isEqualTo(9);
    }

    @Test
    void aMissingColumnIsSaidAtEveryPlaceThatNeedsIt() {
        List<Problem> problems = new ArrayList<>();
        assertThat(Planner.plan(
                        Huts.job(),
                        Surroundings.NONE,
                        Huts.columns(List.of("Hut no.", "name", "price", "status")),
                        Huts.described(),
                        problems))
                .isEmpty();
        assertThat(problems)
                .extracting(Problem::code)
                .containsExactly(ProblemCode.FIELD_UNKNOWN, ProblemCode.FIELD_UNKNOWN, ProblemCode.FIELD_UNKNOWN);
    }

    @Test
    void aKeyThatNothingKeepsUniqueIsAWarning() {
        RecordDescription hut = Huts.description();
        RecordDescription loose =
                new RecordDescription(hut.name(), true, hut.fields(), List.of(), List.of(), hut.cautions());
        List<Problem> problems = new ArrayList<>();
        assertThat(Planner.plan(
                        Huts.job(),
                        Surroundings.NONE,
                        Huts.columns(Huts.HEADER),
                        (connection, records, written, found) -> Optional.of(loose),
                        problems))
                .isPresent();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.KEY_NOT_UNIQUE);
    }

    @Test
    void parametersHaveTheirDefaultsUnlessGiven() {
        List<Problem> problems = new ArrayList<>();
        assertThat(Parameters.resolve(Huts.job(), Map.of("sesaon", "1"), problems))
                .isEmpty();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.PARAMETER_UNKNOWN);
    }
}
