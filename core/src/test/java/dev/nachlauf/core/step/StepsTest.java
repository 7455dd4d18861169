package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowTexts;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Rows;
import dev.nachlauf.core.value.Values;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What each step makes of rows. Rows are written as code;day;count;rest, results as the values of four fields. */
class StepsTest {
    @TempDir
    Path scratch;

    private final List<Problem> warnings = new ArrayList<>();
    private final List<Problem> problems = new ArrayList<>();
    private RecordFinder finder = (finding, keys) -> List.of();

    private Plan plan(String columns, String steps, String map) {
        return Flows.plan(columns, steps, map, problems);
    }

    /** Each row as {@code values} or {@code -reason} or {@code !codes}, with the source rows it stands for. */
    private List<String> run(String steps, String map, String... lines) {
        Plan plan = plan(lines[0], steps, map);
        Mapper mapper = new Mapper(plan);
        List<String> out = new ArrayList<>();
        for (FlowRow row : Flows.of(plan, Rows.of(lines), finder, scratch, warnings)) {
            TargetRow target = mapper.map(row);
            String shown = target.skipped() != null
                    ? "-" + target.skipped()
                    : target.rejected()
                            ? "!"
                                    + target.problems().stream()
                                            .map(problem -> problem.code().id())
                                            .collect(Collectors.joining(","))
                            : Arrays.stream(target.write(0).values())
                                    .map(Values::text)
                                    .map(String::valueOf)
                                    .collect(Collectors.joining(" "));
            out.add(shown + " <" + row.stands()[0]);
        }
        return out;
    }

    @Test
    void duplicatesAreSettledAsTheStepSays() {
        String[] rows = {"code;count;rest", "x;1;p", "y;2;q", "x;4;r"};
        String map = "a: code, c: count, d: rest";
        assertThat(run("- duplicates: [code]", map, rows))
                .containsExactly("!duplicate <1", "y 2 q <1", "!duplicate <1");
        assertThat(run("- duplicates: [code]\n  keep: first", map, rows))
                .containsExactly("x 1 p <1", "y 2 q <1", "-duplicate <1");
        assertThat(run("- duplicates: [code]\n  keep: last", map, rows))
                .containsExactly("-duplicate <1", "y 2 q <1", "x 4 r <1");
        assertThat(run("- duplicates: [code]\n  keep: sum\n  sum: [count]", map, rows))
                .containsExactly("x 5 p <2", "y 2 q <1");
    }

    @Test
    void aRejectedRowRejectsItsGroup() {
        assertThat(run(
                        "- duplicates: [code]\n  keep: sum\n  sum: [count]",
                        "a: code, c: count",
                        "code;count",
                        "x;1",
                        "y;2",
                        "x;many",
                        "x;3"))
                .containsExactly("!group-rejected <1", "y 2 <1", "!value-malformed <1", "!group-rejected <1");
    }

    @Test
    void whatAStepKeptBackIsNotJudgedByThoseBelowIt() {
        String combine = "- combine: [code]\n  make: { people: sum(count) }\n";
        String[] rows = {"code;count", "x;1", "x;many", "y;2", ";4"};
        for (String below : List.of(
                "- rule: people is not null",
                "- where: people > 0",
                "- duplicates: [people]",
                "- combine: [people]\n  make: { code: max(code) }",
                "- wide-to-long: [people]\n  name: kind\n  value: people")) {
            assertThat(run(combine + below, "a: \"coalesce(code, 'k')\", c: people", rows))
                    .as(below)
                    .contains("!group-rejected <1", "!value-malformed <1", "y 2 <1")
                    .hasSize(4);
        }
    }

    @Test
    void aFieldThatCouldNotBeMadeIsNotTakenForEmpty() {
        assertThat(run("""
                        - set: { large: cast(count as decimal) }
                        - combine: [code]
                          make: { people: 'mod(6, sum(large) - 3)' }
                        - rule: people is not null
                        - where: people < 1
                        """, "a: code, c: people", "code;count", "x;1", "x;2", "y;4"))
                .containsExactly("!division-by-zero <2", "y 0 <1");
    }

    @Test
    void messagesNameTheFieldsThatWereMade() {
        List<FlowRow> rows = Flows.of(
                plan(
                        "code;kind;count",
                        "- long-to-wide: [code]\n  name: kind\n  value: count\n  fields: { s: summer }\n"
                                + "- rule: s > 5\n- rule: code <> 'x'",
                        "a: code"),
                Rows.of("code;kind;count", "x;summer;1"),
                finder,
                scratch,
                warnings);
        assertThat(rows.getFirst().problems())
                .extracting(Problem::place)
                .map(place -> ((Place.InField) place).field())
                .containsExactly("s", "code");
    }

    @Test
    void rowsAreCombinedWithSumsCountsAndTheLike() {
        assertThat(run(
                        """
                        - combine: [code, day]
                          make:
                            people: sum(count)
                            rows: count() || '/' || count(rest) || ' ' || min(count) || '-' || max(count)
                            ends: first(rest) || last(rest)
                        """,
                        "a: code || day, b: rows, c: people, d: ends",
                        "code;day;count;rest",
                        "x;1;2;p",
                        "y;1;7;q",
                        "x;1;5;",
                        "x;2;1;s",
                        "x;1;3;t"))
                .containsExactly("x1 3/2 2-5 10 pt <3", "y1 1/1 7-7 7 qq <1", "x2 1/1 1-1 1 ss <1");
    }

    @Test
    void wideRowsBecomeLongAndABrokenCellKeepsToItself() {
        assertThat(run(
                        "- wide-to-long: ['k *']\n  name: kind\n  value: price\n- set: { kind: \"replace(kind, 'k ', '')\" }",
                        "a: code || kind, c: cast(price as decimal)",
                        "code;k s;k w",
                        "x;1;2",
                        "y;;3",
                        "z;;"))
                .containsExactly("xs 1 <1", "xw 2 <0", "yw 3 <1", "-blank <1");
        assertThat(run(
                        "- set: { more: cast(more as integer) }\n- wide-to-long: [count, more]\n  name: kind\n  value: price",
                        "a: code || kind, c: price",
                        "code;count;more",
                        "x;7;8"))
                .containsExactly("xcount 7 <1", "xmore 8 <0");
    }

    @Test
    void longRowsBecomeWide() {
        String steps = "- long-to-wide: [code]\n  name: kind\n  value: count\n  fields: { s: summer, w: winter }";
        assertThat(run(
                        steps,
                        "a: code, b: cast(s as text), c: w",
                        "code;kind;count",
                        "x;summer;1",
                        "y;winter;4",
                        "x;winter;2"))
                .containsExactly("x 1 2 <2", "y null 4 <1");
        assertThat(run(steps, "a: code, c: s", "code;kind;count", "x;summer;1", "x;spring;2"))
                .containsExactly("!group-rejected <1", "!value-not-allowed <1");
        assertThat(run(steps, "a: code, c: s", "code;kind;count", "x;summer;1", "x;summer;2"))
                .containsExactly("!duplicate <2");
    }

    @Test
    void parentsComeFirstAndCirclesAreNamed() {
        String[] rows = {"code;parent", "c;b", "b;a", "a;", "d;elsewhere", "p;q", "q;p", "r;q"};
        assertThat(run("- parents-first: [code]\n  parent: [parent]", "a: code", rows))
                .containsExactly(
                        "a <1",
                        "!parents-circular <1",
                        "!parents-circular <1",
                        "!parents-circular <1",
                        "b <1",
                        "d <1",
                        "c <1");
        Plan plan = plan(rows[0], "- parents-first: [code]\n  parent: [parent]", "a: code");
        List<String> sentences = Flows.of(plan, Rows.of(rows), finder, scratch, warnings).stream()
                .flatMap(row -> row.problems().stream())
                .map(Problem::sentence)
                .toList();
        assertThat(sentences)
                .containsExactlyInAnyOrder(
                        "The rows refer to each other in a circle: p → q → p.",
                        "The rows refer to each other in a circle: q → p → q.",
                        "The row's parents refer to each other in a circle: q → p → q.");
    }

    @Test
    void aRuleOverTheWholeLoadStopsItOrWarns() {
        String[] rows = {"code;count", "x;1", "y;2"};
        assertThat(run("- whole-load: sum(count) = 3 and count() = 2", "a: code", rows))
                .hasSize(2);
        assertThat(warnings).isEmpty();
        assertThat(run("- whole-load: sum(count) = 4\n  message: The sum is 4\n  severity: warning", "a: code", rows))
                .hasSize(2);
        assertThat(warnings).extracting(Problem::sentence).containsExactly("The sum is 4. Found: 3.");
        assertThatThrownBy(() -> run("- whole-load: max(count) < 2", "a: code", rows))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems())
                                .extracting(Problem::code)
                                .containsExactly(ProblemCode.WHOLE_LOAD_FAILED));
    }

    @Test
    void lookupsAskOnceForManyRowsAndSayWhatIsMissing() {
        List<Integer> asked = new ArrayList<>();
        finder = (finding, keys) -> {
            asked.add(keys.size());
            return keys.stream()
                    .map(key -> switch (key[0].toString()) {
                        case "none" -> Found.NOTHING;
                        case "two" -> new Found(2, new Object[] {"first"});
                        default -> new Found(1, new Object[] {"id of " + key[0]});
                    })
                    .toList();
        };
        String lookup = "- lookup: p\n  connection: register\n  records: any\n  match: { a: code }\n  bring: [b]";
        String[] rows = {"code", "x", "none", "x", "two", "y", ""};
        assertThat(run(lookup, "a: (code || 'k'), b: p.b", rows))
                .containsExactly(
                        "xk id of x <1",
                        "!lookup-none <1",
                        "xk id of x <1",
                        "!lookup-several <1",
                        "yk id of y <1",
                        "!lookup-none,key-empty <1");
        assertThat(asked).as("distinct keys in one question").containsExactly(4);
        assertThat(run(
                        lookup + "\n  none: empty\n  several: first",
                        "a: \"(coalesce(code, '') || 'k')\", b: p.b",
                        rows))
                .containsExactly(
                        "xk id of x <1",
                        "nonek null <1",
                        "xk id of x <1",
                        "twok first <1",
                        "yk id of y <1",
                        "k null <1");
    }

    @Test
    void aWarningStandsBesideTheRow() {
        Plan plan = plan("code;count", "- rule: count < 5\n  severity: warning\n  message: Few", "a: code");
        List<FlowRow> rows = Flows.of(plan, Rows.of("code;count", "x;7"), finder, scratch, warnings);
        assertThat(rows.getFirst().isAlive()).isTrue();
        assertThat(rows.getFirst().warnings()).extracting(Problem::code).containsExactly(ProblemCode.RULE_WARNED);
    }

    @Test
    void groupsStandTogether() {
        Plan plan = plan("code;rest", "- group: order\n  by: [code]", "a: rest");
        List<FlowRow> rows = Flows.of(plan, Rows.of("code;rest", "x;1", "y;2", "x;3"), finder, scratch, warnings);
        assertThat(rows).extracting(row -> row.source().number()).containsExactly(1L, 3L, 2L);
        assertThat(rows).extracting(FlowRow::group).containsExactly(1L, 1L, 2L);
    }

    @Test
    void stepsBelowAGroupLeaveItTogether() {
        String[] lines = {"code;rest", "x;1", "y;2", "x;3", "y;2", "x;4", "y;5"};
        for (String below : List.of(
                "- duplicates: [code, rest]\n  keep: first",
                "- duplicates: [code, rest]\n  keep: last",
                "- duplicates: [code, rest]",
                "- rule: rest <> '4'")) {
            Plan plan = plan("code;rest", "- group: order\n  by: [code]\n" + below, "a: rest");
            assertThat(Flows.of(plan, Rows.of(lines), finder, scratch, warnings))
                    .as(below)
                    .extracting(row -> row.source().number())
                    .containsExactly(1L, 3L, 5L, 2L, 4L, 6L);
        }
    }

    @Test
    void theFirstRowThatIsLeftLeadsItsGroup() {
        String[] lines = {"code;rest", "x;1", "y;2", "x;3", "y;4", "x;5"};
        Plan plan = plan("code;rest", "- group: order\n  by: [code]\n- where: rest <> '1'", "a: rest");
        List<FlowRow> rows = Flows.of(plan, Rows.of(lines), finder, scratch, warnings);
        assertThat(rows).extracting(row -> row.source().number()).containsExactly(1L, 3L, 5L, 2L, 4L);
        assertThat(rows).extracting(FlowRow::group).containsExactly(1L, 3L, 3L, 2L, 2L);
        assertThat(rows.getFirst().skipped()).isEqualTo("filtered");
    }

    @Test
    void aGroupHasTenThousandRows() {
        String step = "- group: order\n  by: [code]";
        assertThat(run(step, "a: code", oneGroup(10_000))).hasSize(10_000).allMatch("x <1"::equals);
        assertThat(run(step, "a: code", oneGroup(10_001))).hasSize(10_001).allMatch("!group-too-large <1"::equals);
    }

    private static String[] oneGroup(int rows) {
        String[] lines = new String[rows + 1];
        Arrays.fill(lines, "x");
        lines[0] = "code";
        return lines;
    }

    @Test
    void whatSpillsComesBackAsItWas() {
        Plan plan = plan("code;count;rest", "- set: { twice: count * 2 }", "a: code");
        FlowRow row = Flows.of(plan, Rows.of("code;count;rest", "x;many;"), finder, scratch, warnings)
                .getFirst();
        FlowRow back = FlowCodec.decode(FlowCodec.encode(row));
        assertThat(back.slots()).isEqualTo(row.slots());
        assertThat(back.problems()).isEqualTo(row.problems());
        assertThat(back.source().origin()).isEqualTo(row.source().origin());
        assertThat(back.settledBy()).isEqualTo(row.settledBy());
    }

    @Test
    void cellsOfATextSpillAsTheyStand() {
        SourceRow source = new SourceRow(7, Origin.line("huts.csv", 8), RowTexts.of("H-017", null, "Hütte"));
        FlowRow row = new FlowRow(3, source, new Object[] {source.cell(0), null, 4L}, new long[] {1}, List.of());
        FlowRow back = FlowCodec.decode(FlowCodec.encode(row));
        assertThat(back.source().text()).isNotNull();
        assertThat(back.source().cells()).containsExactly("H-017", null, "Hütte");
        assertThat(back.slots()).containsExactly("H-017", null, 4L);
        assertThat(back.source().number()).isEqualTo(7);
        assertThat(back.position()).isEqualTo(3);
    }

    /** A held run keeps rows that an earlier version wrote: an empty slot was said to be the empty cell of its number. */
    @Test
    void whatAnEarlierVersionSpilledIsReadStill() {
        SourceRow source = new SourceRow(7, Origin.line("huts.csv", 8), new Object[] {"H-017", null, 4L});
        FlowRow row = new FlowRow(3, source, new Object[] {source.cell(0), null}, new long[] {1}, List.of());
        byte[] now = FlowCodec.encode(row);
        // behind the slots stand two counts of problems, of which there are none
        byte[] before = Arrays.copyOf(now, now.length - 1);
        before[before.length - 9] = 1;
        before[before.length - 8] = 0;
        FlowRow back = FlowCodec.decode(before);
        assertThat(back.source().text()).isNull();
        assertThat(back.source().cells()).containsExactly("H-017", null, 4L);
        assertThat(back.slots()).containsExactly("H-017", null);
        assertThat(back.slots()[0]).isSameAs(back.source().cell(0));
    }
}
