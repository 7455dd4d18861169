package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RequirementTest {
    private static final Scope HUT = Scope.of(new Shape(List.of(
            new Field("code", Kind.TEXT),
            new Field("beds", Kind.INTEGER),
            new Field("opens", Kind.DATE),
            new Field("price", Kind.DECIMAL))));

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '"',
            value = {
                "code = 'H-1'                             | 0 in [H-1]",
                "'H-1' = code and beds > 8                | 0 in [H-1]; 1 from 8",
                "8 <= beds and upper(code) = 'X'          | 1 from 8",
                "beds in (1, null, 2)                     | 1 in [1, 2]",
                "opens between date '2026-05-01' and null | 2 from 2026-05-01",
                "price = 8                                | 3 in [8]",
                "beds = 8.5                               | 1 in [8.5]",
                "code >= 'H'                              | ''",
                "code = 'H-1' or beds = 8                 | ''",
                "not code = 'H-1'                         | ''",
                "beds < 8                                 | ''",
                "beds = null                              | ''",
                "beds in (1, beds)                        | ''",
                "code = 'H-1' and (beds = 1 or beds = 2)  | 0 in [H-1]",
                "case when beds = 8 then true end         | ''"
            })
    void whatHasToBeSo(String text, String expected) {
        List<Problem> problems = new ArrayList<>();
        Formula formula = Formula.check(FormulaSource.of(text), HUT, Kind.BOOLEAN, problems)
                .orElseThrow(() -> new AssertionError(problems));
        List<String> found = formula.requirements().stream()
                .map(requirement -> switch (requirement) {
                    case Requirement.Among among -> among.slot() + " in " + among.values();
                    case Requirement.AtLeast least -> least.slot() + " from " + least.value();
                })
                .toList();
        assertThat(String.join("; ", found)).isEqualTo(expected.replace("''", ""));
    }
}
