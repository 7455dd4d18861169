package dev.nachlauf.core.problem;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class CannotGoOnTest {
    private static Problem problem(ProblemCode code) {
        return Problem.of(code, "So it is.", "");
    }

    @Test
    void isTemporaryByItsErrorsAlone() {
        Problem away = problem(ProblemCode.UNREACHABLE);
        Problem warning = problem(ProblemCode.KEY_NOT_UNIQUE);
        assertThat(new CannotGoOn(away).isTemporary()).isTrue();
        assertThat(new CannotGoOn(List.of(warning, away)).isTemporary()).isTrue();
        assertThat(new CannotGoOn(problem(ProblemCode.DISK_FULL)).isTemporary()).isTrue();
        assertThat(new CannotGoOn(List.of(away, problem(ProblemCode.TARGET_CHANGED))).isTemporary())
                .isFalse();
        assertThat(new CannotGoOn(warning).isTemporary()).isFalse();
    }
}
