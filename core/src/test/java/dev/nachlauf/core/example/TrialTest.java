package dev.nachlauf.core.example;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.source.Rows;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Values;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TrialTest {
    private static final RecordDescription ORDER = type("order", "order_id", "no", "hut");
    private static final RecordDescription LINE = type("line", "line_id", "no", "order_id", "hut", "article");
    private static final String WRITES = """
            write:
              - name: order
                connection: register
                records: order
                once-per: order
                action: upsert
                key: [no]
                map: { no: no, hut: upper(hut) }
              - name: line
                connection: register
                records: line
                action: upsert
                key: [no]
                map: { no: no || line, order_id: cast(order.order_id as text), hut: order.hut, article: article }
            """;

    @TempDir
    Path scratch;

    private static RecordDescription type(String name, String id, String... fields) {
        List<FieldDescription> described = new ArrayList<>(List.of(FieldDescription.plain(id, Kind.INTEGER)));
        Arrays.stream(fields).forEach(field -> described.add(FieldDescription.plain(field, Kind.TEXT)));
        return new RecordDescription(name, true, described, List.of(new UniqueKey("id", List.of(id), true)), List.of());
    }

    private static Plan plan(String steps) {
        List<Problem> problems = new ArrayList<>();
        String job = "nachlauf: 1\njob: orders\nread: { connection: inbox, file: a.csv }\nsteps:\n" + steps + WRITES;
        return JobFile.read(new SourceText("orders.yaml", job), problems)
                .flatMap(read -> Planner.plan(
                        read,
                        Surroundings.NONE,
                        Huts.columns(List.of("no", "hut", "line", "article")),
                        (connection, records, written, found) ->
                                Optional.of(records.value().equals("order") ? ORDER : LINE),
                        problems))
                .orElseThrow(() -> new AssertionError(problems));
    }

    private List<String> tried(String steps, int rows, String... lines) {
        Plan plan = plan(steps);
        return Trial.of(
                        plan,
                        new Rows("a.csv", "no;hut;line;article", List.of(lines), ""),
                        rows,
                        (finding, keys) ->
                                keys.stream().map(key -> Found.NOTHING).toList(),
                        scratch)
                .stream()
                .map(row -> shown(plan, row))
                .toList();
    }

    private static String shown(Plan plan, TargetRow row) {
        if (row.skipped() != null) {
            return row.row().source().number() + " " + row.skipped();
        }
        StringBuilder text = new StringBuilder().append(row.row().source().number());
        for (int w = 0; w < plan.writes().size(); w++) {
            if (row.write(w) != null) {
                text.append(' ')
                        .append(plan.writes().get(w).name())
                        .append(Arrays.stream(row.write(w).values())
                                .map(value -> value == Mapper.LATER
                                        ? "later"
                                        : value == BrokenInput.VALUE ? "wrong" : String.valueOf(Values.text(value)))
                                .toList());
            }
        }
        row.problems()
                .forEach(problem -> text.append(" !").append(problem.code().id()));
        return text.toString();
    }

    private static final String GROUPED = "  - group: order\n    by: [no]\n";

    @Test
    void resultsOfAnEarlierWriteAreUsedAsFarAsTheyAreKnown() {
        assertThat(tried(GROUPED, 9, "O1;h-1;1;flour", "O1;h-1;2;rope", "O2;h-2;1;gas"))
                .containsExactly(
                        "1 order[O1, H-1] line[O11, later, H-1, flour]",
                        "2 line[O12, later, H-1, rope]",
                        "3 order[O2, H-2] line[O21, later, H-2, gas]");
    }

    @Test
    void onlyTheFirstRowsAreReadAndRulesOverTheWholeLoadAreLeftOut() {
        String steps = "  - where: article <> 'rope'\n  - whole-load: count() = 1000\n" + GROUPED;
        assertThat(tried(steps, 2, "O1;h-1;1;flour", "O1;h-1;2;rope", "O2;h-2;1;gas"))
                .containsExactly("1 order[O1, H-1] line[O11, later, H-1, flour]", "2 filtered");
    }

    @Test
    void aProblemStandsWithItsRowAndTheOthersGoOn() {
        String steps = "  - set: { line: cast(cast(line as integer) + 1 as text) }\n" + GROUPED;
        List<String> rows = tried(steps, 9, "O1;h-1;one;flour", "O2;h-2;1;gas");
        assertThat(rows.stream().sorted().collect(Collectors.joining("; ")))
                .contains("!value-malformed")
                .contains("2 order[O2, H-2] line[O22, later, H-2, gas]");
    }
}
