package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.memory.MemoryRecords;
import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.system.Writes;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What the source no longer has goes, and nothing else does. */
class ReplaceTest {
    private static final RunPolicy FIRST = new RunPolicy(Purpose.PLAN_FIRST, false, 2, 100_000);
    private static final RunPolicy WRITE = new RunPolicy(false, 2, 100_000);
    private static final String HEADER = "code;name;beds;status\n";

    @TempDir
    Path scratch;

    private MemoryRecords huts = new MemorySystem(MemoryTargetTest.HUT);
    private Kept planned = new Kept();
    private Kept kept = new Kept();
    private String steps = "  - where: coalesce(status, '') <> 'closed'\n  - set: { hut: upper(code) }";
    private String more = "";
    private String map = "{ hut_code: hut, name: name, beds: beds }";

    private HutLoad load(Kept to) {
        return new HutLoad((Writes) huts, to, scratch)
                .of("""
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: huts.csv }
                steps:
                %s
                write:
                  name: hut
                  connection: register
                  records: hut
                  action: replace
                  key: [hut_code]
                  map: %s
                %s
                %%s
                """.formatted(steps, map, more.indent(2).stripTrailing()));
    }

    private RunResult plan(String rows) {
        return load(planned).run(HEADER + rows, "", FIRST, new Quiet());
    }

    private RunResult write(String rows) {
        RunResult result = load(kept).release(HEADER + rows, planned, row -> false, WRITE, new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    private RunResult replace(String rows) {
        assertThat(plan(rows).state()).isEqualTo(RunState.FINISHED);
        return write(rows);
    }

    private List<String> codes() {
        return huts.records().stream()
                .map(hut -> hut.get("hut_code") + " " + hut.get("name") + " " + hut.get("beds"))
                .sorted()
                .toList();
    }

    private static List<String> lines(Kept of) {
        return of.rows(1, 5).stream()
                .map(row -> row.number() + " " + row.key() + " " + row.outcome().word()
                        + (row.note().isEmpty() ? "" : " (" + row.note() + ")"))
                .toList();
    }

    private void stored(String... codes) {
        Stream.of(codes).forEach(code -> huts.add(hut(code, "Old", 1)));
    }

    @ParameterizedTest
    @ValueSource(strings = {"atomic", "by record"})
    void whatNoRowHasGoes(String kind) {
        huts = kind.equals("atomic") ? new MemorySystem(MemoryTargetTest.HUT) : new RecordSystem(MemoryTargetTest.HUT);
        stored("H-1", "H-2", "H-3", "H-4");
        RunResult result = replace("h-2;Fern;9;\nh-5;Oak;3;\n");
        assertThat(codes()).containsExactly("H-2 Fern 9", "H-5 Oak 3");
        assertThat(lines(kept))
                .containsExactly(
                        "1 [H-2] updated", "2 [H-5] inserted", "0 [H-1] deleted", "0 [H-3] deleted", "0 [H-4] deleted");
        assertThat(result.balance().counts().deleted())
                .as("no row stands behind them")
                .isZero();
        assertThat(result.balance().counts().taken()).isEqualTo(2);
        assertThat(result.balance().tally().removals())
                .singleElement()
                .satisfies(gone -> assertThat(gone.deleted()).isEqualTo(3));
        assertThat(kept.rows(1, 5).get(2).before()).startsWith("H-1", "Old", 1L);
    }

    @Test
    void whatAnyRowMeansStays() {
        stored("H-1", "H-2", "H-3", "H-4", "H-5", "H-6");
        replace("h-1;One;many;\nh-2;Two;2;closed\nh-3;Three;3;\nh-3;Three;4;\nh-4;Four;4;\n");
        assertThat(codes())
                .as("rejected, skipped and repeated rows protect their records")
                .containsExactly("H-1 Old 1", "H-2 Old 1", "H-3 Old 1", "H-4 Four 4");
    }

    @Test
    void onlyWhatLiesWithinTheScopeGoesAndRowsOutsideAreRejected() {
        stored("H-1", "H-2");
        huts.add(hut("H-3", "Other", 7));
        more = "scope: beds < 5";
        RunResult result = replace("h-1;One;2;\nh-9;Nine;9;\n");
        assertThat(codes()).containsExactly("H-1 One 2", "H-3 Other 7");
        assertThat(lines(kept))
                .containsExactly("1 [H-1] updated", "2 [H-9] rejected (out-of-scope)", "0 [H-2] deleted");
        assertThat(result.balance().counts().rejected()).isEqualTo(1);
    }

    @Test
    void onlyWhatAgreesWithARowGoes() {
        huts.add(hut("H-1", "Fern", 1));
        huts.add(hut("H-2", "Fern", 1));
        huts.add(hut("H-3", "Oak", 1));
        huts.add(hut("H-4", "Moss", 1));
        more = "within: [name]";
        replace("h-1;Fern;2;\nh-5;Fern;3;\nh-6;Moss;many;\n");
        assertThat(codes())
                .as("a rejected row takes nothing away")
                .containsExactly("H-1 Fern 2", "H-3 Oak 1", "H-4 Moss 1", "H-5 Fern 3");
    }

    @Test
    void whatIsGoneCanBeDeactivatedInstead() {
        stored("H-1", "H-2");
        huts.add(hut("H-3", "Old", 0));
        more = "gone: deactivate\ndeactivated: { beds: 0 }";
        RunResult result = replace("h-1;One;2;\n");
        assertThat(codes()).containsExactly("H-1 One 2", "H-2 Old 0", "H-3 Old 0");
        assertThat(lines(kept))
                .as("what is so already is no change")
                .containsExactly("1 [H-1] updated", "0 [H-2] updated");
        assertThat(result.balance().tally().removals().getFirst().updated()).isEqualTo(1);
    }

    @Test
    void aRowWhoseKeyCannotBeComputedHoldsTheRun() {
        stored("H-1", "H-2");
        String rows = "h-1;One;2;\n;Two;2;\n";
        RunResult result = plan(rows);
        assertThat(result.state()).isEqualTo(RunState.HELD);
        assertThat(result.reasons()).extracting(Problem::code).containsExactly(ProblemCode.REMOVAL_UNSURE);
        assertThat(result.reasons().getFirst().sentence())
                .isEqualTo(
                        "It can't be told which record row 2 means, so one that they mean may be among those that go.");
        assertThat(codes()).containsExactly("H-1 Old 1", "H-2 Old 1");
        write(rows);
        assertThat(codes()).containsExactly("H-1 One 2");
    }

    @Test
    void aSourceWithoutRowsRemovesNothingUnlessTheJobAllowsIt() {
        stored("H-1", "H-2");
        RunResult result = plan("");
        assertThat(result.state()).isEqualTo(RunState.FAILED);
        assertThat(result.reasons()).extracting(Problem::code).containsExactly(ProblemCode.SOURCE_EMPTY);
        more = "empty-source: allow";
        replace("");
        assertThat(codes()).isEmpty();
    }

    @Test
    void aRecordThatHasChangedSinceStays() {
        stored("H-1", "H-2", "H-3");
        plan("h-1;One;2;\n");
        huts.change("hut_code", "H-3", "beds", 8L);
        RunResult result = write("h-1;One;2;\n");
        assertThat(codes()).containsExactly("H-1 One 2", "H-3 Old 8");
        assertThat(lines(kept))
                .containsExactly("1 [H-1] updated", "0 [H-2] deleted", "0 [H-3] rejected (changed-since-review)");
        assertThat(kept.rejects).singleElement().satisfies(reject -> {
            assertThat(reject.number()).as("no row of the source").isZero();
            assertThat(reject.key()).isEqualTo("H-3");
        });
        assertThat(result.balance().tally().sources()).isZero();
    }

    @Test
    void anAttemptThatWasInterruptedPlansAllAnew() {
        stored("H-1", "H-2", "H-3", "H-4", "H-5", "H-6");
        planned.failAt = 3;
        String rows = "h-1;One;1;\nh-2;Two;2;\nh-3;Three;3;\nh-4;Four;4;\nh-5;Five;many;\n";
        assertThatThrownBy(() -> plan(rows)).isInstanceOf(CannotGoOn.class);
        assertThat(planned.chunks).isNotEmpty();
        assertThat(planned.foreseen).hasSize(1);
        planned.failAt = -1;
        replace(rows);
        assertThat(planned.foreseen).as("what was foreseen first is forgotten").hasSize(1);
        assertThat(codes()).containsExactly("H-1 One 1", "H-2 Two 2", "H-3 Three 3", "H-4 Four 4", "H-5 Old 1");
    }

    @Test
    void aLimitOfRemovalsHoldsTheRun() {
        stored("H-1", "H-2", "H-3");
        RunResult result = load(planned).run(HEADER + "h-1;One;2;\n", "limits: { deleted: 1 }", FIRST, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.HELD);
        assertThat(result.reasons())
                .extracting(Problem::sentence)
                .containsExactly("2 records would be removed; the job's limit is 1.");
    }

    @Test
    void linesThatTheirOrderNoLongerHasGo() throws IOException {
        MemorySystem shop = new MemorySystem(Orders.ORDER, Orders.LINE);
        huts = shop;
        long first = order(shop, "O-1", 1, 2, 3);
        long second = order(shop, "O-2", 1, 2);
        order(shop, "O-3", 1);
        String csv = "no;hut;line;article\nO-1;Fern;1;Rope\nO-1;Fern;4;Lamp\nO-4;Oak;1;Bell\nO-2;Moss;x;Tent\n";
        new Orders(shop, planned, scratch).replacingLines().load(csv, "", FIRST, new Quiet());
        RunResult result =
                new Orders(shop, kept, scratch).replacingLines().release(planned, row -> false, WRITE, new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        assertThat(shop.records("line").stream()
                        .map(line -> line.get("order_id") + "/" + line.get("line_no") + " " + line.get("article"))
                        .sorted())
                .as("O-1 loses 2 and 3 and gains 4, O-2 was rejected, O-3 is not in the file, O-4 is new")
                .containsExactlyInAnyOrder(
                        first + "/1 Rope",
                        first + "/4 Lamp",
                        second + "/1 Old",
                        second + "/2 Old",
                        (second + 3) + "/1 Old",
                        shop.recordsById("order").keySet().stream()
                                        .max(Long::compare)
                                        .orElseThrow() + "/1 Bell");
        assertThat(result.balance().tally().removals().getFirst().deleted()).isEqualTo(2);
    }

    private static long order(MemorySystem shop, String number, long... lines) {
        Map<String, Object> order = new LinkedHashMap<>();
        order.put("order_no", number);
        order.put("hut", "Old");
        long id = shop.add("order", order);
        LongStream.of(lines).forEach(line -> {
            Map<String, Object> values = new LinkedHashMap<>();
            values.put("order_id", id);
            values.put("line_no", line);
            values.put("article", "Old");
            shop.add("line", values);
        });
        return id;
    }

    @Test
    void linesOfTheLedgerSayWhoWroteThem() {
        stored("H-1", "H-2");
        replace("h-1;One;2;\n");
        assertThat(kept.rows(1, 5)).extracting(LedgerRow::write).containsExactly(0, 1);
        assertThat(load(kept).writes().writes())
                .extracting(write -> write.name())
                .containsExactly("hut", "hut (gone)");
    }
}
