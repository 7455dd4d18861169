package dev.nachlauf.service.web;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.Values;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class MaskedTest {
    private static final List<String> HEADER = List.of("card", "first", "last", "paid");
    private static final List<String> RAW = List.of("M-1", "Ada", " Föhrenstein ", "10,00");
    private static final Masked MASKED = new Masked(Set.of("first", "last"), Set.of("name"));

    private static ProblemView shown(String field, String value) {
        Problem problem = Problem.inField(
                ProblemCode.VALUE_MALFORMED,
                field,
                value,
                "'" + value + "' is not a number.",
                "Correct " + value + ".");
        return MASKED.problem(ProblemViews.of(List.of(problem)).getFirst(), HEADER, RAW);
    }

    @Test
    void onlyTheCellsOfMaskedColumnsAreHidden() {
        assertThat(MASKED.cells(HEADER, RAW)).containsExactly("M-1", "•••", "•••", "10,00");
        assertThat(MASKED.cells(HEADER, Arrays.asList("M-1", null, "x", "1"))).containsExactly("M-1", null, "•••", "1");
    }

    @Test
    void aRowThatIsOutOfStepIsHiddenWhollyForItsCellsCantBeTold() {
        assertThat(MASKED.cells(HEADER, List.of("M-1", "Ada", "Föhren", "stein", "10,00")))
                .containsOnly("•••");
        assertThat(MASKED.cells(HEADER, List.of("M-1", "Ada"))).containsOnly("•••");
    }

    @Test
    void withoutMarksNothingIsHidden() {
        Masked nothing = new Masked(Set.of(), Set.of());
        assertThat(nothing.cells(HEADER, RAW)).isEqualTo(RAW);
        assertThat(nothing.cells(HEADER, List.of("too", "short"))).containsExactly("too", "short");
    }

    @Test
    void aProblemOfAMaskedFieldTellsNeitherValueNorSentenceWithIt() {
        ProblemView problem = shown("name", "Ada F.");
        assertThat(problem.value()).isEqualTo("•••");
        assertThat(problem.sentence()).isEqualTo("'•••' is not a number.");
        assertThat(problem.remedy()).isEqualTo("Correct •••.");
        assertThat(problem.rendered()).doesNotContain("Ada");
        assertThat(problem.code()).isEqualTo("value-malformed");
    }

    @Test
    void aProblemOfAStepIsMaskedWhereItsValueIsMadeOfAMaskedCell() {
        assertThat(shown("called", "FÖHRENSTEIN").value()).as("in another case").isEqualTo("•••");
        assertThat(shown("called", "ada föhrenstein").value())
                .as("of two cells")
                .isEqualTo("•••");
        assertThat(shown("called", "Föhren").value()).as("a part").isEqualTo("•••");
        assertThat(shown("paid", "10,00").value()).as("another column").isEqualTo("10,00");
    }

    @Test
    void aShortenedValueIsKnownAgain() {
        String whole = "Föhrenstein ".repeat(12).strip();
        Problem problem =
                Problem.inField(ProblemCode.VALUE_MALFORMED, "called", Values.shortened(whole), "It is malformed.", "");
        ProblemView shown =
                MASKED.problem(ProblemViews.of(List.of(problem)).getFirst(), HEADER, List.of("M-1", "", whole, "1"));
        assertThat(shown.value()).isEqualTo("•••");
    }

    @Test
    void aProblemWithoutAValueStaysAsItIs() {
        ProblemView problem = ProblemViews.of(List.of(
                        Problem.inField(ProblemCode.REQUIRED_EMPTY, "name", "The field is required, but empty.", "")))
                .getFirst();
        assertThat(MASKED.problem(problem, HEADER, RAW)).isSameAs(problem);
    }
}
