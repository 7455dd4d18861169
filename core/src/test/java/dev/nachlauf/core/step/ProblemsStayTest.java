package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Rows;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a step finds wrong with a row stays said, whatever the steps below make of it. */
class ProblemsStayTest {
    private static final String COLUMNS = "code;count;rest;w one;w two";
    private static final String MAP = "a: \"coalesce(code, 'k')\"";

    /** Rules name any column, also those that become rows further down. */
    private static final List<String> ABOVE = List.of(
            "- rule: count < 6\n  message: Too many",
            "- rule: \"coalesce(cast(\\\"w one\\\" as integer), 0) >= 0\"\n  message: Below zero",
            "- rule: \"\\\"w two\\\" is null or \\\"w one\\\" is not null\"\n  message: Two without one",
            "- rule: \"\\\"w two\\\" <> '8'\"\n  message: No eight",
            "- set: { count: 6 / (count - 1) }",
            "- set: { \"w one\": upper(\"w one\") }");

    private static final List<String> BELOW = List.of(
            "- wide-to-long: ['w *']\n  name: which\n  value: price",
            "- combine: [code]\n  make: { count: sum(count) }",
            "- duplicates: [code]\n  keep: sum\n  sum: [count]",
            "- group: order\n  by: [code]");

    @TempDir
    Path scratch;

    private List<FlowRow> rows(String steps, String[] lines) {
        Plan plan = Flows.plan(COLUMNS, steps, MAP, new ArrayList<>());
        List<SourceRow> source = new ArrayList<>();
        Rows reader = Rows.of(lines);
        for (SourceRow row = reader.next(); row != null; row = reader.next()) {
            source.add(row);
        }
        return Flows.of(plan, source, (finding, keys) -> List.of(), scratch, new ArrayList<>());
    }

    /** Each problem with the row of the source that it was found in. */
    private static Set<String> problems(List<FlowRow> rows) {
        Set<String> problems = new HashSet<>();
        rows.forEach(row -> row.problems()
                .forEach(problem -> problems.add(row.source().number() + " " + problem.code() + " " + problem.place()
                        + " " + problem.sentence())));
        return problems;
    }

    private static String one(Random random, String... of) {
        return of[random.nextInt(of.length)];
    }

    @Test
    void problemsNeverGetFewer() {
        int found = 0;
        for (long seed = 1; seed <= 800; seed++) {
            Random random = new Random(seed);
            String[] lines = new String[2 + random.nextInt(15)];
            lines[0] = COLUMNS;
            for (int i = 1; i < lines.length; i++) {
                lines[i] = String.join(
                        ";",
                        one(random, "x", "y", "z"),
                        one(random, "1", "2", "7", "many", ""),
                        one(random, "p", ""),
                        one(random, "5", "-5", "x", ""),
                        one(random, "8", "9", ""));
            }
            StringBuilder steps = new StringBuilder();
            for (int i = 1 + random.nextInt(3); i > 0; i--) {
                steps.append(ABOVE.get(random.nextInt(ABOVE.size()))).append('\n');
            }
            Set<String> before = problems(rows(steps.toString(), lines));
            steps.append(BELOW.get(random.nextInt(BELOW.size()))).append('\n');
            assertThat(problems(rows(steps.toString(), lines)))
                    .as("seed " + seed + "\n" + steps + String.join("\n", lines))
                    .containsAll(before);
            found += before.size();
        }
        assertThat(found).as("the cases are worth it").isGreaterThan(1_000);
    }

    @Test
    void aRuleAboutAColumnThatBecomesARowRejectsAllThatBecomesOfTheRow() {
        List<FlowRow> rows = rows(
                "- rule: \"cast(\\\"w one\\\" as integer) >= 0\"\n- wide-to-long: ['w *']\n  name: which\n  value: price",
                new String[] {COLUMNS, "x;1;p;-5;8", "y;1;p;5;8"});
        assertThat(rows).hasSize(3);
        assertThat(rows.getFirst().problems()).extracting(Problem::code).containsExactly(ProblemCode.RULE_FAILED);
        assertThat(rows.subList(1, 3)).allMatch(FlowRow::isAlive);
    }

    @Test
    void whatWasSaidOfMembersIsSaidOfTheRowThatTheyBecome() {
        String warning = "- rule: count < 2\n  message: Many\n  severity: warning\n";
        String[] lines = {COLUMNS, "x;1;p;;", "x;3;p;;", "x;3;p;;"};
        for (String step : List.of(BELOW.get(1), BELOW.get(2))) {
            assertThat(rows(warning + step, lines))
                    .singleElement()
                    .satisfies(row -> assertThat(row.warnings())
                            .extracting(Problem::code)
                            .containsExactly(ProblemCode.RULE_WARNED, ProblemCode.RULE_WARNED));
        }
        String widen = "- long-to-wide: [code]\n  name: \"coalesce(rest, 'p')\"\n  value: count\n  fields: { p: p }";
        assertThat(rows(warning + widen, new String[] {COLUMNS, "x;3;p;;"}))
                .singleElement()
                .satisfies(row -> assertThat(row.warnings()).hasSize(1));
    }

    @Test
    void aLongChainOfParentsIsNoCircle() {
        String[] lines = IntStream.rangeClosed(0, 1_010)
                .mapToObj(n -> n == 0 ? COLUMNS : "c" + n + ";1;" + (n == 1 ? "" : "c" + (n - 1)) + ";;")
                .toArray(String[]::new);
        List<FlowRow> rows = rows("- parents-first: [code]\n  parent: [rest]", lines);
        assertThat(rows).hasSize(1_010);
        assertThat(rows.stream().filter(row -> !row.isAlive()).flatMap(row -> row.problems().stream()))
                .isNotEmpty()
                .extracting(Problem::code)
                .containsOnly(ProblemCode.PARENTS_TOO_DEEP);
    }
}
