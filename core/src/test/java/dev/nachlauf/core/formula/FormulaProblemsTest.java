package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FormulaProblemsTest {
    private static final Shape SHAPE = new Shape(List.of(
            new Field("name", Kind.TEXT),
            new Field("beds", Kind.INTEGER),
            new Field("x", Kind.TEXT),
            new Field("X", Kind.TEXT)));

    private static List<Problem> problems(String text) {
        List<Problem> problems = new ArrayList<>();
        Formula.check(FormulaSource.of(text), Scope.of(SHAPE), problems);
        return problems;
    }

    /** Code and place: the offsets of the first finding. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "upper(name§FORMULA_SYNTAX§10§10",
                "'open§FORMULA_SYNTAX§0§5",
                "beds >§FORMULA_SYNTAX§6§6",
                "beds & 1§FORMULA_SYNTAX§5§6",
                "1 < beds < 3§FORMULA_SYNTAX§9§10",
                "beds beds§FORMULA_SYNTAX§5§9",
                "case beds end§FORMULA_SYNTAX§10§13",
                "2x§FORMULA_SYNTAX§0§2",
                "cast(beds as number)§FORMULA_SYNTAX§13§19",
                "naem§FIELD_UNKNOWN§0§4",
                "\"Name\"§FIELD_UNKNOWN§0§6",
                "uper(name)§FUNCTION_UNKNOWN§0§4",
                "upper(name, 1)§ARGUMENT_COUNT§0§14",
                "substring(name)§ARGUMENT_COUNT§0§15",
                "nullif(name)§ARGUMENT_COUNT§0§12",
                "upper(beds)§TYPE_MISMATCH§6§10",
                "name + 1§TYPE_MISMATCH§5§6",
                "name = 1§TYPE_MISMATCH§5§6",
                "beds || 1§TYPE_MISMATCH§5§7",
                "not name§TYPE_MISMATCH§4§8",
                "beds and true§TYPE_MISMATCH§0§4",
                "case when true then 1 else 'a' end§TYPE_MISMATCH§0§34",
                "cast(true as date)§TYPE_MISMATCH§0§18",
                "date '2026-13-01'§VALUE_MALFORMED§0§17",
                "name like 'a\\'§FORMULA_SYNTAX§10§14",
                "beds is many§FORMULA_SYNTAX§8§12",
                "beds is true§TYPE_MISMATCH§0§4",
                "interval '1' day§TYPE_MISMATCH§0§16",
                "date '2026-05-01' + interval '1' hour§TYPE_MISMATCH§18§19",
                "date '2026-05-01' + interval '1' week§FORMULA_SYNTAX§33§37",
                "date '2026-05-01' + interval 'x' day§VALUE_MALFORMED§29§32",
                "extract(hour from date '2026-05-01')§TYPE_MISMATCH§0§36",
                "extract(century from date '2026-05-01')§FORMULA_SYNTAX§8§15",
                "trim(both 'x')§FORMULA_SYNTAX§13§14",
                "greatest(1, 'a')§TYPE_MISMATCH§0§16",
                "matches(name, '(')§VALUE_MALFORMED§0§18",
                "parse_date(name, 'ii')§VALUE_MALFORMED§0§22",
                "parse_decimal(name, 'xx')§VALUE_MALFORMED§0§25",
                "crosswalk('hut', name)§CROSSWALK_UNKNOWN§10§15",
                "crosswalk(name, name)§TYPE_MISMATCH§10§14",
                ":season§PARAMETER_UNKNOWN§0§7",
            })
    void areFoundWithCodeAndPlace(String formula, ProblemCode code, int start, int end) {
        Problem first = problems(formula).getFirst();
        assertThat(first.code()).isEqualTo(code);
        assertThat(first.place()).isInstanceOfSatisfying(Place.InText.class, place -> {
            assertThat(place.span().start()).isEqualTo(start);
            assertThat(place.span().end()).isEqualTo(end);
        });
    }

    @Test
    void areAllFoundAtOnceWithoutEchoes() {
        assertThat(problems("uper(naem) || (beds + name) || upper(beds)"))
                .extracting(Problem::code)
                .containsExactly(
                        ProblemCode.FIELD_UNKNOWN,
                        ProblemCode.FUNCTION_UNKNOWN,
                        ProblemCode.TYPE_MISMATCH,
                        ProblemCode.TYPE_MISMATCH);
    }

    @Test
    void syntaxAndMeaningAreSaidTogether() {
        assertThat(problems("upper(naem +) || uper(name) || “Hut” || substring(beds from)"))
                .extracting(Problem::code)
                .containsExactly(
                        ProblemCode.FORMULA_SYNTAX,
                        ProblemCode.FORMULA_SYNTAX,
                        ProblemCode.FORMULA_SYNTAX,
                        ProblemCode.FUNCTION_UNKNOWN,
                        ProblemCode.TYPE_MISMATCH);
    }

    @Test
    void namesThatDifferInCaseOnlyAreAmbiguous() {
        Shape both = new Shape(List.of(new Field("Beds", Kind.TEXT), new Field("BEDS", Kind.TEXT)));
        List<Problem> problems = new ArrayList<>();
        Formula.check(FormulaSource.of("beds"), Scope.of(both), problems);
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.FIELD_AMBIGUOUS);
    }

    @Test
    void depthIsBounded() {
        assertThat(problems("(".repeat(Parser.DEEPEST - 1) + "1" + ")".repeat(Parser.DEEPEST - 1)))
                .isEmpty();
        assertThat(problems("(".repeat(Parser.DEEPEST) + "1" + ")".repeat(Parser.DEEPEST)))
                .hasSize(1);
        assertThat(problems("not ".repeat(5_000) + "true")).hasSize(1);
    }

    @Test
    void chainsAndLengthAreBounded() {
        assertThat(problems("1" + "+1".repeat(Parser.MOST_OPERATORS))).isEmpty();
        assertThat(problems("1" + "+1".repeat(Parser.MOST_OPERATORS + 1))).hasSize(1);
        assertThat(problems("'" + "a".repeat(Formula.LONGEST - 2) + "'")).isEmpty();
        assertThat(problems("'" + "a".repeat(Formula.LONGEST - 1) + "'"))
                .extracting(Problem::code)
                .containsExactly(ProblemCode.FORMULA_TOO_LARGE);
    }

    @Test
    void nestingDoesNotMultiply() {
        String between = "1";
        String choice = "1";
        for (int i = 0; i < 45; i++) {
            between = "case when (" + between + ") between 0 and 2 then 1 else 0 end";
            choice = "case (" + choice + ") when 0 then 1 when 1 then 0 else nullif(" + i + ", 7) end";
        }
        assertThat(problems(between)).isEmpty();
        assertThat(problems(choice)).isEmpty();
    }

    @Test
    void chainsOfTestsAreBounded() {
        assertThat(problems("true" + " is true".repeat(Parser.MOST_OPERATORS + 1)))
                .hasSize(1);
    }

    private static final List<String> WORDS = List.of(
            ("name beds x \"Hut no.\" 'text' 12 1.5 :p null true ( ( ) ) , + - * / || = <> < and or not is in between like"
                            + " escape case when then else end cast as integer decimal ( extract year from ) substring for"
                            + " trim both leading position coalesce nullif upper crosswalk interval '1' day date"
                            + " '2026-05-01' distinct unknown & “ 2x . ; %")
                    .split(" "));

    /** Whatever people type, they get a formula or an answer that says what is wrong with it, and where. */
    @Test
    void anyTextIsAnswered() {
        Random random = new Random(11);
        int sound = 0;
        int severalFaults = 0;
        for (int i = 0; i < 30_000; i++) {
            StringBuilder text = new StringBuilder();
            for (int words = 1 + random.nextInt(14); words > 0; words--) {
                text.append(WORDS.get(random.nextInt(WORDS.size()))).append(' ');
            }
            List<Problem> problems = new ArrayList<>();
            Optional<Formula> formula = Formula.check(FormulaSource.of(text.toString()), Scope.of(SHAPE), problems);
            assertThat(formula.isPresent()).as(text.toString()).isEqualTo(problems.isEmpty());
            for (Problem problem : problems) {
                Place.InText place = (Place.InText) problem.place();
                assertThat(place.span().end()).as(text.toString()).isLessThanOrEqualTo(text.length());
                assertThat(problem.sentence()).as(text.toString()).isNotEmpty();
            }
            assertThat(problems.stream()
                            .filter(problem -> problem.code() == ProblemCode.FORMULA_SYNTAX)
                            .map(Problem::place))
                    .as("a place is complained of once: " + text)
                    .doesNotHaveDuplicates();
            sound += formula.isPresent() ? 1 : 0;
            severalFaults += problems.size() > 1 ? 1 : 0;
        }
        assertThat(sound).as("some texts are formulas by chance").isGreaterThan(100);
        assertThat(severalFaults).as("many texts have several faults").isGreaterThan(3_000);
    }

    /** The engine is linear; what it unfolds is bounded before it is asked. */
    @Test
    void hostileExpressionsAreRefusedOrEndInTime() {
        assertThat(problems("matches(name, '((a{100}){100}){100}')"))
                .extracting(Problem::code)
                .containsExactly(ProblemCode.OUT_OF_RANGE);
        assertThat(problems("matches(name, '" + "a".repeat(1_001) + "')"))
                .extracting(Problem::code)
                .containsExactly(ProblemCode.OUT_OF_RANGE);
        List<Problem> problems = new ArrayList<>();
        Formula formula = Formula.check(FormulaSource.of("matches(name, '(a*)*(a|aa)+b')"), Scope.of(SHAPE), problems)
                .orElseThrow();
        assertThat(formula.evaluator().evaluate(new Object[] {"a".repeat(20_000), 1L, "", ""}))
                .isEqualTo(false);
    }

    @Test
    void aHostilePatternEndsInTime() {
        String pattern = "%a".repeat(2_000) + "b";
        assertThat(LikePattern.of(pattern, "\\").matches("a".repeat(5_000))).isFalse();
    }
}
