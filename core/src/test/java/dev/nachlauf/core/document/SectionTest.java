package dev.nachlauf.core.document;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class SectionTest {
    private final List<Problem> problems = new ArrayList<>();

    private Section section(String text) {
        return Document.parse(new SourceText("x.yaml", text), problems).orElseThrow();
    }

    private List<ProblemCode> codes() {
        return problems.stream().map(Problem::code).toList();
    }

    @Test
    void readsWordsNumbersListsAndMaps() {
        Section root = section("a: word\nb: 7\nc: [x, y]\nd: { e: 1 }\nf: alone\n");
        assertThat(root.text("a")).contains("word");
        assertThat(root.integer("b", 1, 10)).contains(7);
        assertThat(root.texts("c")).containsExactly("x", "y");
        assertThat(root.texts("f")).containsExactly("alone");
        assertThat(root.section("d").orElseThrow().text("e")).contains("1");
        assertThat(root.text("missing")).isEmpty();
        root.done();
        assertThat(problems).isEmpty();
    }

    @Test
    void reportsWhatNobodyAskedFor() {
        Section root = section("title: a\ntitel: b\n");
        root.text("title");
        root.done();
        assertThat(codes()).containsExactly(ProblemCode.KEY_UNKNOWN);
        assertThat(problems.getFirst().remedy()).isEqualTo("Did you mean title?");
    }

    @Test
    void reportsValuesOfTheWrongKind() {
        Section root = section("a: [1]\nb: 99\nc: x\nd: text\ne:\n");
        assertThat(root.text("a")).isEmpty();
        assertThat(root.integer("b", 1, 10)).isEmpty();
        assertThat(root.integer("c", 1, 10)).isEmpty();
        assertThat(root.section("d")).isEmpty();
        assertThat(root.formula("e")).isEmpty();
        assertThat(codes()).hasSize(5).containsOnly(ProblemCode.VALUE_WRONG_KIND);
    }

    @Test
    void reportsAKeyThatIsMissing() {
        section("a: 1\n").requiredText("b");
        assertThat(codes()).containsExactly(ProblemCode.KEY_MISSING);
    }

    @Test
    void aQuotedFormulaThatIsMoreThanAWordIsFine() {
        Section root = section("a: \"upper(trim(name))\"\nb: ':season + 1'\n");
        assertThat(root.formula("a").orElseThrow().text()).isEqualTo("upper(trim(name))");
        assertThat(root.formula("b").orElseThrow().text()).isEqualTo(":season + 1");
        assertThat(problems).isEmpty();
    }

    @Test
    void anOrdinaryCommentBehindAFormulaIsNoTrap() {
        assertThat(section("a: beds > 3   # small huts stay out\n")
                        .formula("a")
                        .orElseThrow()
                        .text())
                .isEqualTo("beds > 3");
        assertThat(problems).isEmpty();
    }

    @Test
    void allValuesAreReadAsYamlMeansThem() {
        String text = "a: 'it''s'\nb: { c: [1, \"x\\ty\"] }\nd:\n  - e: >-\n      two\n      lines\n";
        assertThat(Document.values(new SourceText("x.yaml", text))).containsExactly("it's", "1", "x\ty", "two lines");
        assertThat(Document.values(new SourceText("x.yaml", "a: [b"))).isEmpty();
    }

    @Test
    void aliasesCantBlowUpADocument() {
        List<Problem> found = new ArrayList<>();
        String bomb = "a: &a [x, x]\nb: &b [*a, *a]\nc: &c [*b, *b]\nd: [*c, *c]\n";
        Document.parse(new SourceText("x.yaml", bomb), found)
                .ifPresent(root -> assertThat(root.texts("d")).hasSizeLessThan(10));
    }
}
