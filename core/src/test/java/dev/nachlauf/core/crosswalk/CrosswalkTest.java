package dev.nachlauf.core.crosswalk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.crosswalk.CrosswalkFile.Addition;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CrosswalkTest {
    private static final String DOCUMENT = """
            nachlauf: 1
            crosswalk: hut-category
            ignore-case: true
            empty: none
            entries:
              # the wardens' own words
              - { from: Alpine, to: A }
              - { from: Alpine, to: X, scope: SEE }
              - { like: 'valley*', to: V }
              - { like: 'valley inn*', to: I }
              - { like: '??-9', to: N }
              - { range: 1..9, to: small }
              - { range: 10.., to: large }
              - when: char_length(value) > 12
                gives: upper(left(value, 3)) || coalesce(scope, '-')
              - { otherwise: other, scope: NOR }
            """;

    private static Crosswalk read(String document, List<Problem> problems) {
        return CrosswalkFile.read(new SourceText("hut-category.yaml", document), problems)
                .orElse(null);
    }

    private static Matcher matcher(String document) {
        List<Problem> problems = new ArrayList<>();
        Crosswalk crosswalk = read(document, problems);
        assertThat(problems).isEmpty();
        return Matcher.compile(crosswalk, problems);
    }

    @ParameterizedTest
    @CsvSource(
            nullValues = "null",
            value = {
                "Alpine,null,A",
                "ALPINE,null,A",
                "alpine,SEE,X",
                "alpine,NOR,A",
                "valley hut,null,V",
                "Valley Inn East,null,I",
                "ab-9,null,N",
                "7,null,small",
                "9.0,SEE,small",
                "250,null,large",
                "a very long name,null,A V-",
                "a very long name,SEE,A VSEE",
                "what,NOR,other",
                "'',null,none",
                "null,null,none",
            })
    void translates(String value, String scope, String expected) {
        assertThat(matcher(DOCUMENT).translate(value, scope)).isEqualTo(expected);
    }

    @Test
    void whatIsNotThereIsAGapThatCanBeTold() {
        assertThatThrownBy(() -> matcher(DOCUMENT).translate("what", "SEE"))
                .isInstanceOfSatisfying(ValueProblem.class, problem -> {
                    assertThat(problem.code()).isEqualTo(ProblemCode.NO_TRANSLATION);
                    assertThat(Gap.of(problem.inField("category").subject()))
                            .contains(new Gap("hut-category", "SEE", "what"));
                });
    }

    @Test
    void tellsWhichEntryMatched() {
        Matcher.Match match = matcher(DOCUMENT).match("valley inn east", null).orElseThrow();
        assertThat(match.entry().from()).isEqualTo(new Crosswalk.From.Wildcard("valley inn*"));
        assertThat(match.translation()).isEqualTo("I");
    }

    @Test
    void contradictionsAreFoundWhereTheyStand() {
        List<Problem> problems = new ArrayList<>();
        read(DOCUMENT + """
              - { from: ALPINE, to: B }
              - { range: 5..12, to: middle }
              - { otherwise: a, scope: NOR }
              - { to: nowhere }
              - { range: many, to: x }
            """.indent(0), problems);
        assertThat(problems).extracting(Problem::code).contains(ProblemCode.KEY_MISSING, ProblemCode.VALUE_WRONG_KIND);
        problems.clear();
        read(DOCUMENT + "  - { from: ALPINE, to: B }\n  - { range: 5..12, to: middle }\n", problems);
        assertThat(problems).extracting(Problem::code).containsOnly(ProblemCode.NAME_TAKEN);
        assertThat(problems).hasSize(2);
    }

    @Test
    void additionsLeaveTheRestAsItIs() {
        String more =
                CrosswalkFile.with(DOCUMENT, List.of(new Addition("", "it's new", "Z"), new Addition("SEE", "b", "Y")));
        assertThat(more).startsWith(DOCUMENT).contains("# the wardens' own words");
        assertThat(matcher(more).translate("It's New", null)).isEqualTo("Z");
        assertThat(matcher(more).translate("b", "SEE")).isEqualTo("Y");
        assertThat(CrosswalkFile.with("nachlauf: 1\ncrosswalk: c\nentries: []\n", List.of(new Addition("", "a", "b"))))
                .isEqualTo("nachlauf: 1\ncrosswalk: c\nentries:\n  - { from: 'a', to: 'b' }\n");
    }

    @Test
    void aTableOfTwoOrThreeColumnsIsACrosswalkToo() {
        String document = CrosswalkFile.document(
                "region",
                "Regions",
                List.of(
                        Arrays.asList("Seekamm", "SEE"),
                        Arrays.asList("North*", "NOR", "w"),
                        Arrays.asList("1..3", "low"),
                        Arrays.asList("*", "none")));
        Matcher matcher = matcher(document);
        assertThat(matcher.translate("Seekamm", null)).isEqualTo("SEE");
        assertThat(matcher.translate("North wall", "w")).isEqualTo("NOR");
        assertThat(matcher.translate("2", null)).isEqualTo("low");
        assertThat(matcher.translate("elsewhere", null)).isEqualTo("none");
    }

    /** Beside the plain way: one pattern after the other. */
    @Test
    void manyWildcardsAreAsOneAfterTheOther() {
        Random random = new Random(7);
        List<String> patterns = new ArrayList<>();
        for (int i = 0; i < 200; i++) {
            StringBuilder pattern = new StringBuilder();
            for (int j = random.nextInt(5); j >= 0; j--) {
                pattern.append("ab*?c".charAt(random.nextInt(5)));
            }
            patterns.add(pattern.toString());
        }
        WildcardSet all = WildcardSet.of(patterns);
        for (int i = 0; i < 2_000; i++) {
            StringBuilder text = new StringBuilder();
            for (int j = random.nextInt(6); j > 0; j--) {
                text.append("abc".charAt(random.nextInt(3)));
            }
            int best = -1;
            for (int p = 0; p < patterns.size(); p++) {
                WildcardSet one = WildcardSet.of(List.of(patterns.get(p)));
                boolean better = best < 0 || literals(patterns.get(p)) > literals(patterns.get(best));
                best = one.match(text.toString()) == 0 && better ? p : best;
            }
            int found = all.match(text.toString());
            assertThat(found < 0 ? "" : patterns.get(found))
                    .hasSize(best < 0 ? 0 : patterns.get(found).length());
            assertThat(found < 0).isEqualTo(best < 0);
            assertThat(best < 0 ? 0 : literals(patterns.get(found)))
                    .isEqualTo(best < 0 ? 0 : literals(patterns.get(best)));
        }
    }

    @Test
    void aTableBecomesADocumentThatSaysTheSame() {
        String document = CrosswalkFile.document(
                "paint",
                "Paints: all",
                List.of(
                        Arrays.asList("red", "R", null),
                        Arrays.asList("it's \"red\"", "R2", "SEE"),
                        Arrays.asList("dark*", "D", null),
                        Arrays.asList("1..9", "S", null),
                        Arrays.asList(null, "none", null),
                        Arrays.asList("*", "other", "SEE"),
                        Arrays.asList(null, null, null)));
        Matcher paints = matcher(document);
        assertThat(paints.translate("red", null)).isEqualTo("R");
        assertThat(paints.translate("it's \"red\"", "SEE")).isEqualTo("R2");
        assertThat(paints.translate("darkness", null)).isEqualTo("D");
        assertThat(paints.translate("7", null)).isEqualTo("S");
        assertThat(paints.translate(null, null)).isEqualTo("none");
        assertThat(paints.translate("pink", "SEE")).isEqualTo("other");
        assertThatThrownBy(() -> paints.translate("pink", null)).isInstanceOf(ValueProblem.class);
    }

    @Test
    void aTableCantSayTwiceWhatAnEmptyValueBecomes() {
        List<Problem> problems = new ArrayList<>();
        read(
                CrosswalkFile.document(
                        "a", "a", List.of(List.of("a", "b"), Arrays.asList(null, "x"), Arrays.asList(null, "y"))),
                problems);
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.NAME_TAKEN);
    }

    @Test
    void aCrosswalkHasAHundredThousandEntries() {
        List<Problem> problems = new ArrayList<>();
        assertThat(matcher(entries(100_000)).translate("h99999", null)).isEqualTo("99999");
        read(entries(100_001), problems);
        assertThat(problems).singleElement().satisfies(problem -> {
            assertThat(problem.code()).isEqualTo(ProblemCode.VALUE_WRONG_KIND);
            assertThat(problem.sentence()).contains("at most 100000 entries");
        });
    }

    private static String entries(int count) {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            rows.add(List.of("h" + i, String.valueOf(i)));
        }
        return CrosswalkFile.document("many", "many", new ArrayList<>(rows));
    }

    private static long literals(String pattern) {
        return pattern.chars().filter(c -> c != '*' && c != '?').count();
    }
}
