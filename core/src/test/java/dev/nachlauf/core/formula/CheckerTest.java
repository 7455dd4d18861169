package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CheckerTest {
    private static final Scope SCOPE = Scope.of(new Shape(List.of(
            new Field("name", Kind.TEXT),
            new Field("beds", Kind.INTEGER),
            new Field("price", Kind.DECIMAL),
            new Field("opens", Kind.DATE),
            new Field("open", Kind.BOOLEAN))));

    private final List<Problem> problems = new ArrayList<>();

    private Checker.Result check(String text) {
        Findings findings = new Findings(FormulaSource.of(text), problems);
        return Checker.check(Parser.parse(Lexer.tokens(text, findings), findings), SCOPE, findings);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "beds + 1§INTEGER",
                "beds + price§DECIMAL",
                "beds / 2§INTEGER",
                "opens - opens§INTEGER",
                "opens + 3§DATE",
                "opens + interval '1' month§DATE",
                "name || beds§TEXT",
                "beds > price§BOOLEAN",
                "case when open then 1 else 2.5 end§DECIMAL",
                "case when open then null else opens end§DATE",
                "coalesce(beds, price)§DECIMAL",
                "nullif(beds, 3)§INTEGER",
                "greatest(beds, 2, null)§INTEGER",
                "cast(name as timestamp)§TIMESTAMP",
                "extract(year from opens)§INTEGER",
                "name like 'a%'§BOOLEAN",
            })
    void infersTheKind(String text, Kind kind) {
        assertThat(check(text).kind()).contains(kind);
        assertThat(problems).isEmpty();
    }

    @Test
    void nullAloneHasNoKind() {
        assertThat(check("null").kind()).isEmpty();
        assertThat(check("coalesce(null, null)").kind()).isEmpty();
        assertThat(problems).isEmpty();
    }

    @Test
    void knowsTheSlotsInOrderAndOnce() {
        assertThat(check("case when open then beds else beds * 2 end > price").slots())
                .containsExactly(1, 2, 4);
    }

    @Test
    void anIntegerIsWidenedWhereADecimalStandsBesideIt() {
        Checked.Choose choose = (Checked.Choose)
                check("case when open then beds else price end").tree();
        assertThat(choose.branches().getFirst().result()).isEqualTo(new Checked.Widen(new Checked.Slot(1)));
        assertThat(choose.otherwise()).isEqualTo(new Checked.Slot(2));
    }

    @Test
    void oneFaultMakesOneProblemHoweverManyNodesStandAboveIt() {
        assertThat(check("upper(nmae || 'x') || trim(nmae) = 'a' or not (beds + name > 3)")
                        .slots())
                .isNotNull();
        assertThat(problems)
                .extracting(Problem::code)
                .containsExactly(ProblemCode.FIELD_UNKNOWN, ProblemCode.FIELD_UNKNOWN, ProblemCode.TYPE_MISMATCH);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "beds || price§TYPE_MISMATCH",
                "not beds§TYPE_MISMATCH",
                "name + 1§TYPE_MISMATCH",
                "opens + opens§TYPE_MISMATCH",
                "name = beds§TYPE_MISMATCH",
                "beds in (1, 'x')§TYPE_MISMATCH",
                "case when beds then 1 end§TYPE_MISMATCH",
                "case when open then 1 else 'x' end§TYPE_MISMATCH",
                "extract(hour from opens)§TYPE_MISMATCH",
                "interval '1' day§TYPE_MISMATCH",
                "uper(name)§FUNCTION_UNKNOWN",
                "upper(name, name)§ARGUMENT_COUNT",
                ":season§PARAMETER_UNKNOWN",
            })
    void whatDoesNotFitIsFound(String text, ProblemCode code) {
        check(text);
        assertThat(problems).extracting(Problem::code).containsExactly(code);
    }
}
