package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.source.Rows;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import java.util.function.Supplier;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Rows that are merged in memory become what they become when they are sorted. */
class MergeFlowTest {
    private static final String COLUMNS = "code;day;count;rest";
    private static final List<String> ABOVE = List.of(
            "",
            "- where: count > 1 or rest = 'p'\n",
            "- rule: count < 6\n  message: Too many\n",
            "- rule: rest <> 'q'\n  severity: warning\n",
            "- set: { count: 6 / (count - 1) }\n");
    private static final List<String> MERGING = List.of(
            "- combine: [code]\n  make: { count: sum(count), rest: last(rest), rows: count() }\n",
            "- combine: [code, day]\n  make: { count: 7 / count(rest), rest: first(rest) }\n",
            "- duplicates: [code]\n  keep: sum\n  sum: [count]\n");
    private static final List<String> BELOW =
            List.of("", "- where: count <> 3\n", "- combine: [rest]\n  make: { count: max(count), code: min(code) }\n");

    @TempDir
    Path scratch;

    private static String one(Random random, String... of) {
        return of[random.nextInt(of.length)];
    }

    private static String[] lines(Random random) {
        String[] lines = new String[1 + random.nextInt(40)];
        lines[0] = COLUMNS;
        for (int i = 1; i < lines.length; i++) {
            lines[i] = String.join(
                    ";",
                    one(random, "x", "y", "z", "p", ""),
                    one(random, "1", "2", ""),
                    one(
                            random,
                            "1",
                            "2",
                            "3",
                            "4",
                            "5",
                            "8",
                            random.nextInt(3) == 0 ? "many" : "7",
                            "9223372036854775807"),
                    one(random, "p", "q", "p", "x", ""));
        }
        return lines;
    }

    private static List<String> rows(RowFlow flow) {
        List<String> rows = new ArrayList<>();
        try (flow) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                rows.add(HexFormat.of().formatHex(FlowCodec.encode(row)));
            }
            rows.add("read " + flow.read());
        }
        return rows;
    }

    @Test
    void becomesWhatSortedRowsBecome() {
        int rejected = 0;
        for (long seed = 1; seed <= 1_500; seed++) {
            Random random = new Random(seed);
            String steps = one(random, ABOVE.toArray(String[]::new))
                    + one(random, MERGING.toArray(String[]::new))
                    + one(random, BELOW.toArray(String[]::new));
            Plan plan = Flows.plan(COLUMNS, steps, "a: \"coalesce(code, 'k')\", c: count", new ArrayList<>());
            String[] lines = lines(random);
            Supplier<SourceReader> source = () -> Rows.of(lines);
            RecordFinder nobody = (finding, keys) -> List.of();
            List<String> sorted = rows(Shaping.flow(plan, source.get(), nobody, scratch, warning -> {}, () -> {}));
            assertThat(rows(Shaping.flow(plan, source, nobody, scratch, warning -> {}, () -> {})))
                    .as("seed " + seed + ":\n" + steps + String.join("\n", lines))
                    .isEqualTo(sorted);
            rejected += sorted.size() > 12 ? 1 : 0;
        }
        assertThat(rejected).as("the cases are worth it").isGreaterThan(300);
    }

    @Test
    void sortsWhereThereAreMoreGroupsThanFit() throws Exception {
        String[] lines = new String[2_001];
        lines[0] = COLUMNS;
        for (int i = 1; i < lines.length; i++) {
            lines[i] = "c" + i % 700 + ";1;" + i + ";" + (i == 1_999 ? "many" : "p");
        }
        Plan plan = Flows.plan(
                COLUMNS,
                "- rule: rest <> 'many'\n  message: No\n- combine: [code]\n  make: { count: sum(count), rest: last(rest) }\n",
                "a: code, c: count",
                new ArrayList<>());
        PlannedStep.Combine combine = (PlannedStep.Combine) plan.steps().getLast();
        Supplier<RowFlow> upstream = () -> new RowSteps(
                new ReadFlow(plan, new BitSet(), Rows.of(lines), () -> {}),
                0,
                List.of(plan.steps().getFirst()),
                plan,
                new LookupCache((finding, keys) -> List.of()));
        assertThat(rows(merged(plan, combine, upstream, 10_000_000)))
                .as("699 sums, the rows of the rejected group, and the word at the end")
                .hasSize(699 + 3 + 1)
                .isEqualTo(rows(merged(plan, combine, upstream, 10_000)));
        try (var left = Files.list(scratch)) {
            assertThat(left).as("nothing is left on disk").isEmpty();
        }
    }

    private MergeFlow merged(Plan plan, PlannedStep.Combine combine, Supplier<RowFlow> upstream, long most) {
        return new MergeFlow(
                upstream,
                combine.index(),
                combine.by(),
                Merging.of(combine, plan.facts()),
                rows -> new GroupFlow(
                        rows,
                        0,
                        combine.index(),
                        combine.by(),
                        Treatments.of(combine, plan.facts()),
                        scratch,
                        () -> {}),
                () -> {},
                most);
    }
}
