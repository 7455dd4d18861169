package dev.nachlauf.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Rows;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.Flows;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.TargetRow;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** No row is lost on its way, whatever steps stand behind each other and whatever is wrong with the rows. */
class StepBalanceTest {
    private static final String COLUMNS = "code;day;count;rest;w one;w two";

    /** Steps that leave every field in place. */
    private static final List<String> ANYWHERE = List.of(
            "- where: count > 1 or rest = 'p'",
            "- where: code is not null",
            "- set: { count: 6 / (count - 1) }",
            "- set: { rest: upper(rest), code: lower(code) }",
            "- rule: count < 6\n  message: Too many",
            "- rule: rest <> 'q'\n  severity: warning",
            "- duplicates: [code]",
            "- duplicates: [code, day]\n  keep: first",
            "- duplicates: [rest]\n  keep: last",
            "- duplicates: [code]\n  keep: sum\n  sum: [count]",
            "- combine: [code, day]\n  make: { count: sum(count), rest: max(rest) }",
            "- combine: [code]\n  make: { day: min(day), count: 7 / count(rest), rest: last(rest) }",
            "- long-to-wide: [code, day]\n  name: \"coalesce(rest, 'p')\"\n  value: count\n  fields: { p: p, q: q }\n"
                    + "- set: { count: \"coalesce(p, 0) + coalesce(q, 0)\", rest: \"'p'\" }");

    @TempDir
    Path scratch;

    private record Case(String steps, String[] lines, String name) {}

    private static Case random(long seed) {
        Random random = new Random(seed);
        StringBuilder steps = new StringBuilder();
        boolean wide = random.nextInt(3) == 0;
        if (wide) {
            steps.append("- wide-to-long: ['w *']\n  name: which\n  value: price\n");
        }
        for (int i = random.nextInt(5); i >= 0; i--) {
            steps.append(ANYWHERE.get(random.nextInt(ANYWHERE.size()))).append('\n');
        }
        steps.append(
                switch (random.nextInt(4)) {
                    case 0 -> "- group: order\n  by: [code]\n- rule: count <> 3\n";
                    case 1 -> "- parents-first: [code]\n  parent: [rest]\n- where: count <> 3\n";
                    default -> "";
                });
        String[] lines = new String[1 + random.nextInt(40)];
        lines[0] = COLUMNS;
        for (int i = 1; i < lines.length; i++) {
            lines[i] = String.join(
                    ";",
                    one(random, "x", "y", "z", "p", ""),
                    one(random, "1", "2", ""),
                    one(random, "1", "2", "3", "4", "5", "8", "many", ""),
                    one(random, "p", "q", "p", "q", "x", ""),
                    one(random, "7", "", ""),
                    one(random, "8", ""));
        }
        return new Case(steps.toString(), lines, "seed " + seed + ":\n" + steps);
    }

    private static String one(Random random, String... of) {
        return of[random.nextInt(of.length)];
    }

    @Test
    void everyRowIsAccountedForByEveryStep() {
        int settled = 0;
        int made = 0;
        int merged = 0;
        for (long seed = 1; seed <= 1_500; seed++) {
            Case one = random(seed);
            List<Problem> problems = new ArrayList<>();
            Plan plan = Flows.plan(COLUMNS, one.steps, "a: \"coalesce(code, 'k')\", c: count", problems);
            List<TargetRow> rows = rows(plan, one.lines);
            long read = one.lines.length - 1L;

            assertThat(rows.stream().mapToLong(row -> row.row().stands()[0]).sum())
                    .as("rows of the source, %s", one.name)
                    .isEqualTo(read);
            assertThat(rows.stream().map(row -> row.row().position()))
                    .as("places, %s", one.name)
                    .doesNotHaveDuplicates();

            StepTally.Sums sums = new StepTally(plan).sums();
            rows.forEach(sums::add);
            List<StepCount> steps = sums.counts();
            Balance balance = new Balance(read, Counts.NONE, new Tally(steps, List.of(), List.of(), 0, 0, 0), false, 0);
            assertThat(balance.gap()).as(one.name + steps).isEmpty();
            assertThat(steps.getFirst().in()).as("readable, %s", one.name).isEqualTo(read - unreadable(rows));
            assertThat(steps.getLast().out()).as("passed, %s", one.name).isEqualTo(count(rows, true));
            for (StepCount step : steps) {
                assertThat(List.of(step.in(), step.out(), step.skipped(), step.rejected()))
                        .as(one.name)
                        .allMatch(number -> number >= 0);
                settled += step.skipped() + step.rejected() > 0 ? 1 : 0;
                made += step.made() > 0 ? 1 : 0;
                merged += step.merged() > 0 ? 1 : 0;
            }
        }
        assertThat(List.of(settled, made, merged)).as("the cases are worth it").allMatch(cases -> cases > 100);
    }

    /** A group goes together or not at all, and rows that agree are one. */
    @Test
    void noPartOfAGroupGoesOnWithoutTheRest() {
        for (long seed = 1; seed <= 300; seed++) {
            Case one = random(seed);
            String steps = "- combine: [code]\n  make: { count: sum(count), rows: count() }\n";
            Plan plan = Flows.plan(COLUMNS, steps, "a: \"coalesce(code, 'k')\", c: count", new ArrayList<>());
            HashSet<Object> passed = new HashSet<>();
            HashSet<Object> kept = new HashSet<>();
            for (TargetRow row : rows(plan, one.lines)) {
                Object code = row.row().source().cells()[0];
                (row.passed() ? passed : kept).add(String.valueOf(code));
            }
            passed.retainAll(kept);
            assertThat(passed)
                    .as("codes of which a part was summed, %s", one.name)
                    .isEmpty();
        }
    }

    private List<TargetRow> rows(Plan plan, String[] lines) {
        Mapper mapper = new Mapper(plan);
        List<SourceRow> source = new ArrayList<>();
        Rows reader = Rows.of(lines);
        for (SourceRow row = reader.next(); row != null; row = reader.next()) {
            source.add(row);
        }
        List<TargetRow> rows = new ArrayList<>();
        for (FlowRow row : Flows.of(plan, source, (finding, keys) -> List.of(), scratch, new ArrayList<>())) {
            rows.add(mapper.map(row));
        }
        return rows;
    }

    private static long count(List<TargetRow> rows, boolean passed) {
        return rows.stream().filter(row -> row.passed() == passed).count();
    }

    /** Rows that the reader itself rejected. */
    private static long unreadable(List<TargetRow> rows) {
        return rows.stream()
                .filter(row -> !row.row().problems().isEmpty() && row.row().settledBy() < 0)
                .mapToLong(row -> row.row().stands()[0])
                .sum();
    }
}
