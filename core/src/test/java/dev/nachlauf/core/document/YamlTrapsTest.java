package dev.nachlauf.core.document;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Each trap where people meet it; the spelling that the remedy offers is put in place, and the formula is what was meant. */
class YamlTrapsTest {
    private static final List<String> FORMULAS = List.of(
            "\"Hut no.\" || 'x'",
            "'X-' || upper(trim(raw))",
            "'a: b' || name",
            "- beds",
            "case when a = 'x: y' then 1 end",
            "coalesce(a, 'no #1')",
            "a || ' # ' || \"Hut no.\"");
    private static final List<String> FORMULAS_BETWEEN_BRACES = List.of(
            "coalesce(a, b)",
            "coalesce(a, b, c, 'd')",
            "a || ', ' || b",
            "replace(a, '[', '')",
            "a || '}'",
            "coalesce(a, 'x: y')",
            "case when a in ('x', 'y') then \"b c\" else 'it''s' end");

    /** The map in which each place puts its formula stands under the key at; the formula itself under f. */
    private static final List<String> PLACES = List.of("at:\n  e: a\n  f: %s\n  g: b\n", "at: # why\n  f: %s\n");

    private static final List<String> PLACES_BETWEEN_BRACES =
            List.of("at: { f: %s }\n", "at: { e: a, f: %s, g: b }\nother: c\n", "at: {f: %s}\n");

    static Stream<Arguments> traps() {
        return Stream.concat(
                PLACES.stream().flatMap(place -> FORMULAS.stream().map(formula -> Arguments.of(place, formula))),
                PLACES_BETWEEN_BRACES.stream()
                        .flatMap(place -> Stream.concat(FORMULAS.stream(), FORMULAS_BETWEEN_BRACES.stream())
                                .map(formula -> Arguments.of(place, formula))));
    }

    @ParameterizedTest
    @MethodSource("traps")
    void areToldOnceAndTheSafeSpellingIsSafe(String place, String formula) {
        Read read = read(place.formatted(formula));
        assertThat(read.problems).as(read.toString()).singleElement().satisfies(problem -> {
            assertThat(problem.code()).isEqualTo(ProblemCode.YAML_TRAP);
            Place.InText at = (Place.InText) problem.place();
            assertThat(at.source().slice(at.span())).isEqualTo(formula);
        });
        Read safe = read(place.formatted(spelling(read.problems.getFirst())));
        assertThat(safe.problems).isEmpty();
        assertThat(safe.formula.orElseThrow()).isIn(formula, "(" + formula + ")");
    }

    /** What stands between braces in braces, in a list, behind a quoted key. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "at: { of: { f: 'x' || y, g: z } }§\"'x' || y\"",
                "at:\\n  - { e: [1, 2], f: 'x' || y }§\"'x' || y\"",
                "at:\\n  - f: 'x' || y§('x' || y)",
                "at:\\n  \"Hut no.\": 'x' || y§('x' || y)",
                "at: { 'Hut no.': 'x' || y }§\"'x' || y\"",
                "at: \"a like 'x\\%'\"§'a like ''x\\%'''",
                "at: { f: list-${season}.csv }§\"list-${season}.csv\"",
                "at:\\n  f: coalesce(a, 'no #1') # it's: so§\"coalesce(a, 'no #1')\"",
                "title: Huts: spring§\"Huts: spring\"",
            })
    void areFoundWhereverAValueStands(String text, String spelling) {
        Read read = read(lines(text));
        assertThat(read.problems).singleElement().satisfies(problem -> {
            assertThat(problem.code()).isEqualTo(ProblemCode.YAML_TRAP);
            assertThat(spelling(problem)).isEqualTo(spelling);
        });
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "f: 'closed'§('closed')",
                "f: \"Hut no.\"§(\"Hut no.\") for a field, ('Hut no.') for text",
                "f: null§(null)",
            })
    void valuesThatYamlTakesForOthersAreTold(String line, String spelling) {
        Read read = read("at:\n  " + line + "\n");
        assertThat(read.problems).singleElement().satisfies(problem -> {
            assertThat(problem.code()).isEqualTo(ProblemCode.YAML_TRAP);
            assertThat(spelling(problem)).isEqualTo(spelling);
        });
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "at: { e: What's up, f: it's }",
                "at: { e: \"a, b\", f: 'c: d' }",
                "at: { f: upper(a) } # coalesce(a",
                "at:\\n  f: a || b # it's",
                "at: { e: [a, b], f: c }",
            })
    void whatYamlReadsAsItStandsIsNoTrap(String text) {
        assertThat(read(lines(text)).problems).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "at:\\n  f: 'open",
                "at:\\n f: a\\n   g: b\\n  h: c",
                "at: { f: (a",
                "at:\\n\\tf: a",
                "at:\\n f: a # see: it's b\\n   g: c"
            })
    void whatIsMerelyBrokenIsNoTrap(String text) {
        assertThat(read(lines(text)).problems).extracting(Problem::code).containsExactly(ProblemCode.YAML_MALFORMED);
    }

    @Test
    void anEmptyValueIsMissing() {
        assertThat(read("at:\n  f:\n").problems)
                .extracting(Problem::code)
                .containsExactly(ProblemCode.VALUE_WRONG_KIND);
    }

    /** What comes of a text: its problems, and the formula under at and f. */
    private record Read(String text, List<Problem> problems, Optional<String> formula) {}

    private static Read read(String text) {
        List<Problem> problems = new ArrayList<>();
        Optional<String> formula = Document.parse(new SourceText("x.yaml", text), problems)
                .filter(root -> root.isSection("at"))
                .flatMap(root -> root.section("at"))
                .filter(at -> at.has("f"))
                .flatMap(at -> at.formula("f"))
                .map(source -> source.text());
        return new Read(text, problems, formula);
    }

    private static String lines(String text) {
        return text.replace("\\n", "\n").replace("\\t", "\t");
    }

    private static String spelling(Problem problem) {
        return problem.remedy().substring(problem.remedy().indexOf(": ") + 2);
    }
}
