package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.system.Writes;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.LongPredicate;
import java.util.function.Supplier;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Held runs that a person has released: what was reviewed is written, and nothing else. */
class ReviewedRunTest {
    private static final RunPolicy REVIEW = new RunPolicy(Purpose.REVIEW, false, 100, 100_000);
    private static final RunPolicy RELEASED = new RunPolicy(false, 100, 100_000);
    private static final LongPredicate NONE = row -> false;

    @TempDir
    Path scratch;

    private final MemorySystem huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept planned = new Kept();
    private final Kept written = new Kept();

    private void plan(Writes system, String csv) {
        RunResult held = new HutLoad(system, planned, scratch).run(csv, "", REVIEW, new Quiet());
        assertThat(held.state()).isEqualTo(RunState.HELD);
    }

    private RunResult release(Writes system, String csv, LongPredicate leftOut, RunObserver observer) {
        RunResult result = new HutLoad(system, written, scratch).release(csv, planned, leftOut, RELEASED, observer);
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    private List<String> rejects() {
        return written.rejects.stream()
                .map(reject -> reject.number() + " "
                        + reject.problems().getFirst().code().id() + " " + reject.cells())
                .toList();
    }

    private static final String SPRING =
            "code;name;beds;status\nH-1;Larch;8;\nH-2;Fern;9;\nH-3;Stone;5;\nH-4;Moss;many;\n"
                    + "H-5;Ivy;7;closed\nH-6;Oak;3;\n";

    @Test
    void whatWasReviewedIsWritten() {
        huts.add(hut("H-2", "Fern", 4));
        huts.add(hut("H-3", "Stone", 5));
        plan(huts, SPRING);
        assertThat(huts.records()).hasSize(2);
        RunResult result = release(huts, SPRING, NONE, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(huts.records())
                .containsExactlyInAnyOrder(
                        hut("H-1", "Larch", 8), hut("H-2", "Fern", 9), hut("H-3", "Stone", 5), hut("H-6", "Oak", 3));
        assertThat(written.rows(1, 3))
                .extracting(LedgerRow::outcome)
                .containsExactly(
                        Outcome.INSERTED,
                        Outcome.UPDATED,
                        Outcome.UNCHANGED,
                        Outcome.REJECTED,
                        Outcome.SKIPPED,
                        Outcome.INSERTED);
        assertThat(written.rows(1, 3))
                .filteredOn(row -> row.outcome() == Outcome.INSERTED)
                .allMatch(row -> (Long) row.id() > 0, "has a true id");
        assertThat(rejects()).containsExactly("4 value-malformed [H-4, Moss, many, null]");
        assertThat(planned.rows(1, 3)).as("the plan stays as it was").hasSize(6);
    }

    @Test
    void aRowThatIsLeftOutIsSkippedWithItsReason() {
        huts.add(hut("H-2", "Fern", 4));
        plan(huts, SPRING);
        RunResult result = release(huts, SPRING, Set.of(1L, 2L, 4L)::contains, new Quiet());
        assertThat(huts.records())
                .containsExactlyInAnyOrder(hut("H-2", "Fern", 4), hut("H-3", "Stone", 5), hut("H-6", "Oak", 3));
        assertThat(result.balance().counts().skipped())
                .as("H-1, H-2 and the closed one")
                .isEqualTo(3);
        assertThat(result.balance().counts().rejected())
                .as("a reject can't be left out")
                .isEqualTo(1);
        assertThat(written.rows(1, 3))
                .filteredOn(row -> row.note().equals("left out"))
                .extracting(LedgerRow::number)
                .containsExactly(1L, 2L);
    }

    @Test
    void whatWasChangedSinceTheReviewIsLeftAlone() {
        huts.add(hut("H-2", "Fern", 4));
        huts.add(hut("H-3", "Stone", 1));
        plan(huts, SPRING);
        huts.change("hut_code", "H-2", "beds", 6L);
        huts.add(hut("H-6", "Another oak", 1));
        release(huts, SPRING, NONE, new Quiet());
        assertThat(huts.records())
                .containsExactlyInAnyOrder(
                        hut("H-1", "Larch", 8),
                        hut("H-2", "Fern", 6),
                        hut("H-3", "Stone", 5),
                        hut("H-6", "Another oak", 1));
        assertThat(rejects())
                .containsExactlyInAnyOrder(
                        "2 changed-since-review [H-2, Fern, 9, null]",
                        "4 value-malformed [H-4, Moss, many, null]",
                        "6 changed-since-review [H-6, Oak, 3, null]");
    }

    @ParameterizedTest
    @EnumSource(
            value = RunObserver.Point.class,
            names = {"BETWEEN_COMMITS"},
            mode = EnumSource.Mode.EXCLUDE)
    void goesOnAfterACrash(RunObserver.Point where) {
        String csv = HutLoad.huts(450);
        plan(huts, csv);
        Quiet observer = Quiet.dyingAt(where, 3);
        assertThatThrownBy(() -> release(huts, csv, NONE, observer)).isInstanceOf(CannotGoOn.class);
        assertThat(huts.records().size()).isBetween(200, 450);
        RunResult result = release(huts, csv, NONE, observer);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(huts.records()).hasSize(450);
        assertThat(result.balance().counts().inserted()).isEqualTo(450);
        assertThat(rejects()).isEmpty();
    }

    @Test
    void rejectsThatNobodyForesawCostOnePassOverTheSource() {
        String csv = HutLoad.huts(450);
        plan(huts, csv);
        huts.refuse(hut -> hut.get("hut_code").toString().endsWith("50")
                ? Optional.of(Problem.of(ProblemCode.REFUSED_BY_TARGET, "Not today.", ""))
                : Optional.empty());
        AtomicInteger opened = new AtomicInteger();
        Supplier<String> counted = () -> {
            opened.incrementAndGet();
            return csv;
        };
        RunResult result = new HutLoad(huts, written, scratch).release(counted, planned, NONE, RELEASED, new Quiet());
        assertThat(result.balance().counts().inserted()).isEqualTo(445);
        assertThat(rejects())
                .containsExactlyInAnyOrder(
                        "50 refused-by-target [H-00050, Hut 50, 50, null]",
                        "150 refused-by-target [H-00150, Hut 150, 60, null]",
                        "250 refused-by-target [H-00250, Hut 250, 70, null]",
                        "350 refused-by-target [H-00350, Hut 350, 80, null]",
                        "450 refused-by-target [H-00450, Hut 450, 0, null]");
        assertThat(opened).as("one for each writer at most").hasValueLessThan(3);
    }

    @Test
    void recordsAreSentOneByOneToATargetThatTakesThemSo() {
        RecordSystem office = new RecordSystem(MemoryTargetTest.HUT);
        office.add(hut("H-2", "Fern", 4));
        office.add(hut("H-3", "Stone", 1));
        plan(office, SPRING);
        office.change("hut_code", "H-2", "beds", 6L);
        RunResult result = release(office, SPRING, Set.of(6L)::contains, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(office.records())
                .containsExactlyInAnyOrder(hut("H-1", "Larch", 8), hut("H-2", "Fern", 6), hut("H-3", "Stone", 5));
        assertThat(rejects())
                .containsExactlyInAnyOrder(
                        "2 changed-since-review [H-2, Fern, 9, null]", "4 value-malformed [H-4, Moss, many, null]");
    }

    @ParameterizedTest
    @EnumSource(
            value = RunObserver.Point.class,
            names = {"BEFORE_LEDGER", "BETWEEN_LEDGER_AND_COMMIT"})
    void recordsThatWereSentBeforeACrashAreNotSentAgain(RunObserver.Point where) {
        RecordSystem office = new RecordSystem(MemoryTargetTest.HUT);
        String csv = HutLoad.huts(250);
        plan(office, csv);
        Quiet observer = Quiet.dyingAt(where, 2);
        assertThatThrownBy(() -> release(office, csv, NONE, observer)).isInstanceOf(CannotGoOn.class);
        RunResult result = release(office, csv, NONE, observer);
        assertThat(result.balance().counts().inserted()).isEqualTo(250);
        assertThat(office.records()).hasSize(250).doesNotHaveDuplicates();
    }

    private static final String ORDERS = "no;hut;line;article\n"
            + "O-1;H-1;1;flour\nO-2;H-2;1;rope\nO-1;H-1;2;gas\nO-3;H-3;1;wood\nO-2;H-2;2;lamp\nO-1;H-1;3;salt\n";

    private MemorySystem planOrders() throws IOException {
        MemorySystem shop = new MemorySystem(Orders.ORDER, Orders.LINE);
        RunResult held = new Orders(shop, planned, scratch).load(ORDERS, "", REVIEW, new Quiet());
        assertThat(held.state()).isEqualTo(RunState.HELD);
        return shop;
    }

    private RunResult releaseOrders(MemorySystem shop, LongPredicate leftOut) {
        RunResult result = new Orders(shop, written, scratch).release(planned, leftOut, RELEASED, new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    @Test
    void linesGetTheIdsThatTheirHeadersGetWhenTheyAreWritten() throws IOException {
        MemorySystem shop = planOrders();
        releaseOrders(shop, NONE);
        Map<Long, Map<String, Object>> orders = shop.recordsById("order");
        assertThat(orders).hasSize(3);
        assertThat(shop.recordsById("line").values())
                .hasSize(6)
                .allMatch(line -> orders.containsKey((Long) line.get("order_id")));
        assertThat(shop.recordsById("line").values().stream()
                        .map(line ->
                                orders.get((Long) line.get("order_id")).get("order_no") + " " + line.get("article")))
                .containsExactlyInAnyOrder("O-1 flour", "O-1 gas", "O-1 salt", "O-2 rope", "O-2 lamp", "O-3 wood");
    }

    @Test
    void aHeaderThatIsLeftOutTakesItsLinesAlong() throws IOException {
        MemorySystem shop = planOrders();
        RunResult result = releaseOrders(shop, Set.of(1L, 5L)::contains);
        assertThat(shop.recordsById("order").values())
                .extracting(order -> order.get("order_no"))
                .containsExactlyInAnyOrder("O-2", "O-3");
        assertThat(shop.recordsById("line").values())
                .extracting(line -> line.get("article"))
                .as("row 5 was left out alone")
                .containsExactlyInAnyOrder("rope", "wood");
        assertThat(result.balance().tally().steps().getLast().skipped()).isEqualTo(4);
    }
}
