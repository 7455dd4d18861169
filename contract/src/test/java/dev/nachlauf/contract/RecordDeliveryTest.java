package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.contract.memory.RecordSystem.Way;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Batches that are sent record by record: answers get lost, records are locked, the run dies on the way. */
class RecordDeliveryTest {
    private static final RunPolicy BY_100 = new RunPolicy(false, 100, 100_000);

    @TempDir
    Path scratch;

    private final RecordSystem system = new RecordSystem(MemoryTargetTest.HUT);
    private final Kept kept = new Kept();

    private RunResult run(String csv) {
        return run(csv, new Quiet());
    }

    private RunResult run(String csv, RunObserver observer) {
        RunResult result = new HutLoad(system, kept, scratch).run(csv, "", BY_100, observer);
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    private static String code(int number) {
        return "H-%05d".formatted(number);
    }

    /** Each key goes its way once, and then as it should. */
    private void once(Map<String, Way> ways) {
        Set<Object> seen = new HashSet<>();
        system.ways(key -> ways.containsKey(key) && seen.add(key) ? ways.get(key) : Way.THERE_AND_BACK);
    }

    private List<String> rejects() {
        return kept.rejects.stream()
                .map(reject -> reject.number() + " "
                        + String.join(
                                " ",
                                reject.problems().stream()
                                        .map(problem -> problem.code().id())
                                        .toList()))
                .toList();
    }

    private LedgerRow line(int number) {
        return kept.rows(1, 3).stream()
                .filter(row -> row.number() == number)
                .findFirst()
                .orElseThrow();
    }

    /** The id of each record is the one that the ledger knows. */
    private void requireIds() {
        Map<Object, Long> ids = new HashMap<>();
        system.recordsById("hut").forEach((id, values) -> ids.put(values.get("hut_code"), id));
        assertThat(kept.rows(1, 3))
                .filteredOn(row -> row.outcome() != Outcome.REJECTED)
                .allSatisfy(
                        row -> assertThat(row.id()).isEqualTo(ids.get(row.key().getFirst())));
    }

    @Test
    void everyRecordIsSentOnceAndAccountedFor() {
        system.add(hut(code(1), "Hut 1", 1));
        system.add(hut(code(2), "Old", 2));
        RunResult result = run(HutLoad.huts(250));
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().counts().inserted()).isEqualTo(248);
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        assertThat(result.balance().counts().unchanged()).isEqualTo(1);
        assertThat(system.records()).hasSize(250);
        assertThat(IntStream.rangeClosed(2, 250).map(number -> system.sent(code(number))))
                .containsOnly(1);
        assertThat(system.sent(code(1))).isZero();
        assertThat(kept.chunks()).hasSize(3).allMatch(head -> head.state().isKnown());
        requireIds();
    }

    @Test
    void anAnswerThatIsLostIsLookedUpAndNothingIsSentTwice() {
        system.add(hut(code(2), "Old", 2));
        once(Map.of(code(2), Way.ANSWER_LOST, code(7), Way.ANSWER_LOST));
        RunResult result = run(HutLoad.huts(10));
        assertThat(result.balance().counts().inserted()).isEqualTo(9);
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        assertThat(system.sent(code(2))).isEqualTo(1);
        assertThat(system.sent(code(7))).isEqualTo(1);
        requireIds();
    }

    @Test
    void whatDidNotArriveIsSentOnceMore() {
        system.add(hut(code(2), "Old", 2));
        once(Map.of(code(2), Way.LOST, code(7), Way.LOST));
        RunResult result = run(HutLoad.huts(10));
        assertThat(result.balance().counts().inserted()).isEqualTo(9);
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        assertThat(system.sent(code(2))).isEqualTo(2);
        assertThat(system.sent(code(7))).isEqualTo(2);
        requireIds();
    }

    @Test
    void whatNeverArrivesIsLeftAloneAfterTheSecondTime() {
        system.ways(key -> code(7).equals(key) ? Way.LOST : Way.THERE_AND_BACK);
        RunResult result = run(HutLoad.huts(10));
        assertThat(result.balance().counts().inserted()).isEqualTo(9);
        assertThat(rejects()).containsExactly("7 outcome-unknown");
        assertThat(system.sent(code(7))).isEqualTo(2);
        assertThat(line(7).outcome()).isEqualTo(Outcome.REJECTED);
        assertThat(line(7).intent()).isEqualTo(Outcome.INSERTED);
    }

    @Test
    void whatIsNeitherAsItWasNorAsItShouldBeIsNeverSentAgain() {
        system.add(hut(code(2), "Old", 2));
        once(Map.of(code(2), Way.LOST));
        system.before(key -> {
            if (code(3).equals(key)) {
                system.change("hut_code", code(2), "name", "By hand");
            }
        });
        run(HutLoad.huts(10));
        assertThat(rejects()).containsExactly("2 outcome-unknown");
        assertThat(system.sent(code(2))).isEqualTo(1);
        assertThat(system.records().getFirst()).containsEntry("name", "By hand");
    }

    @Test
    void aLockedRecordIsTriedOnceMore() {
        system.add(hut(code(2), "Old", 2));
        system.add(hut(code(3), "Old", 3));
        Set<Object> seen = new HashSet<>();
        system.ways(
                key -> code(3).equals(key) || code(2).equals(key) && seen.add(key) ? Way.LOCKED : Way.THERE_AND_BACK);
        RunResult result = run(HutLoad.huts(10));
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        assertThat(rejects()).containsExactly("3 changed-meanwhile");
        assertThat(system.sent(code(2))).isEqualTo(2);
        assertThat(system.sent(code(3))).isEqualTo(2);
        assertThat(system.records()).extracting(hut -> hut.get("name")).contains("Hut 2", "Old");
    }

    @Test
    void whatIsRefusedIsRejectedAndTheOthersStand() {
        system.refuse(values -> code(4).equals(values.get("hut_code"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No such hut.", ""))
                : Optional.empty());
        RunResult result = run(HutLoad.huts(10));
        assertThat(result.balance().counts().inserted()).isEqualTo(9);
        assertThat(result.balance().counts().refused()).isEqualTo(1);
        assertThat(rejects()).containsExactly("4 check-failed");
    }

    @Test
    void aLimitThatIsCrossedByWhatWasSentHoldsTheRest() {
        system.refuse(values -> (long) values.get("beds") % 10 == 0
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "Round.", ""))
                : Optional.empty());
        RunResult result = new HutLoad(system, kept, scratch)
                .run(HutLoad.huts(250), "limits: { rejected: 5 }\n", BY_100, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.HELD);
        assertThat(system.records()).as("the first batch stands").hasSize(90);
        assertThat(result.balance().counts().inserted()).isEqualTo(90);
        assertThat(result.balance().counts().refused()).isEqualTo(10);
        assertThat(result.balance().unreached()).isEqualTo(150);
    }

    @ParameterizedTest
    @EnumSource(
            value = Way.class,
            names = {"GONE", "DONE_AND_GONE"})
    void aRunThatBreaksOffInTheMiddleGoesOnWhereItWas(Way way) {
        system.add(hut(code(110), "Old", 110));
        once(Map.of(code(150), way));
        assertThatThrownBy(() -> run(HutLoad.huts(250))).isInstanceOf(CannotGoOn.class);
        RunResult result = run(HutLoad.huts(250));
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().counts().inserted()).isEqualTo(249);
        assertThat(result.balance().counts().updated())
                .as("what really happened, not that it was found unchanged")
                .isEqualTo(1);
        assertThat(system.records()).hasSize(250);
        assertThat(system.sent(code(110))).isEqualTo(1);
        assertThat(system.sent(code(150))).isEqualTo(way == Way.GONE ? 2 : 1);
        assertThat(system.sent(code(151))).isEqualTo(1);
        assertThat(kept.rejects).isEmpty();
        requireIds();
    }

    @ParameterizedTest
    @EnumSource(
            value = RunObserver.Point.class,
            names = {"BEFORE_LEDGER", "BETWEEN_LEDGER_AND_COMMIT", "AFTER_COMMIT"})
    void aRunThatDiesAtAnyPointSendsNothingTwice(RunObserver.Point where) {
        system.add(hut(code(120), "Old", 120));
        AtomicBoolean died = new AtomicBoolean();
        RunObserver observer = new Quiet() {
            @Override
            public void reached(Point point, int batch) {
                if (point == where && batch == 1 && died.compareAndSet(false, true)) {
                    throw new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "Died.", ""));
                }
            }
        };
        assertThatThrownBy(() -> run(HutLoad.huts(250), observer)).isInstanceOf(CannotGoOn.class);
        RunResult result = run(HutLoad.huts(250), observer);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().counts().inserted()).isEqualTo(249);
        assertThat(result.balance().counts().updated()).isEqualTo(1);
        assertThat(IntStream.rangeClosed(1, 250).map(number -> system.sent(code(number))))
                .containsOnly(1);
        requireIds();
    }

    @Test
    void whatSomebodyChangedWhileTheRunWasDownIsNotTrampled() {
        system.add(hut(code(2), "Old", 2));
        once(Map.of(code(2), Way.GONE));
        assertThatThrownBy(() -> run(HutLoad.huts(10))).isInstanceOf(CannotGoOn.class);
        system.change("hut_code", code(2), "name", "By hand");
        run(HutLoad.huts(10));
        assertThat(rejects()).containsExactly("2 outcome-unknown");
        assertThat(kept.rejects.getFirst().cells()).startsWith(code(2), "Hut 2");
        assertThat(system.records().getFirst()).containsEntry("name", "By hand");
        assertThat(system.records()).hasSize(10);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 99, 100})
    void aStopIsHeardAfterTheBatchInHandHoweverSlowItIs(int slow) throws Exception {
        CountDownLatch waiting = new CountDownLatch(1);
        CountDownLatch goOn = new CountDownLatch(1);
        AtomicBoolean stop = new AtomicBoolean();
        system.before(key -> {
            if (code(slow).equals(key)) {
                waiting.countDown();
                await(goOn);
            }
        });
        CompletableFuture<RunResult> run = CompletableFuture.supplyAsync(() -> run(HutLoad.huts(250), new Quiet() {
            @Override
            public boolean stopRequested() {
                return stop.get();
            }
        }));
        await(waiting);
        stop.set(true);
        goOn.countDown();
        RunResult result = run.get();
        assertThat(result.state()).isEqualTo(RunState.STOPPED);
        assertThat(system.records()).hasSize(100);
        assertThat(result.balance().counts().inserted()).isEqualTo(100);
        assertThat(result.balance().unreached()).isEqualTo(150);
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    private static final String ORDERS = "no;hut;line;article\nO-1;H-1;1;flour\nO-1;H-1;2;rope\nO-2;H-2;3;gas\n";

    private RunResult orders(RecordSystem shop, RunObserver observer) throws IOException {
        RunResult result = new Orders(shop, kept, scratch).apart().load(ORDERS, "", 100, observer);
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    @Test
    void aRefusedHeaderKeepsItsLinesBack() throws IOException {
        RecordSystem shop = new RecordSystem(Orders.ORDER, Orders.LINE);
        shop.refuse(values -> "O-1".equals(values.get("order_no"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No such order.", ""))
                : Optional.empty());
        orders(shop, new Quiet());
        assertThat(shop.records("order")).hasSize(1);
        assertThat(shop.records("line")).extracting(line -> line.get("article")).containsExactly("gas");
        assertThat(rejects()).containsExactly("1 check-failed", "2 group-rejected");
    }

    @Test
    void aRejectSaysWhatWasSentBeforeItsRowWasRefused() throws IOException {
        RecordSystem shop = new RecordSystem(Orders.ORDER, Orders.LINE);
        shop.refuse(values -> "rope".equals(values.get("article"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No rope.", ""))
                : Optional.empty());
        RunResult result = orders(shop, new Quiet());
        assertThat(shop.records("order")).hasSize(2);
        assertThat(shop.records("line")).extracting(line -> line.get("article")).containsExactly("flour", "gas");
        assertThat(rejects()).containsExactly("2 check-failed half-written");
        assertThat(kept.rejects.getFirst().problems().getLast().sentence())
                .isEqualTo("Something that belongs to this row was written to register order, register line before the"
                        + " row was refused.");
        assertThat(result.balance().counts().inserted()).isEqualTo(2);
        assertThat(result.balance().tally().writes().get(1).inserted()).isEqualTo(2);
        assertThat(result.balance().tally().writes().get(1).refused()).isEqualTo(1);
        assertThat(result.balance().tally().elsewhere()).isEqualTo(1);
    }

    @Test
    void linesThatWereNotSentBeforeTheRunDiedFollowTheirHeader() throws IOException {
        RecordSystem shop = new RecordSystem(Orders.ORDER, Orders.LINE);
        Set<Object> seen = new HashSet<>();
        shop.ways(key -> key.equals(2L) && seen.add(key) ? Way.GONE : Way.THERE_AND_BACK);
        assertThatThrownBy(() -> orders(shop, new Quiet())).isInstanceOf(CannotGoOn.class);
        RunResult result = orders(shop, new Quiet());
        assertThat(shop.records("order")).hasSize(2);
        assertThat(shop.records("line")).hasSize(3);
        assertThat(result.balance().counts().inserted()).isEqualTo(2);
        assertThat(result.balance().tally().writes().get(1).inserted()).isEqualTo(3);
        assertThat(kept.rejects).isEmpty();
    }

    @Test
    void whatIsRefusedAfterTheRunDiedSaysInRejectAndLedgerWhatStands() throws IOException {
        RecordSystem shop = new RecordSystem(Orders.ORDER, Orders.LINE);
        Set<Object> seen = new HashSet<>();
        shop.ways(key -> key.equals(1L) && seen.add(key) ? Way.GONE : Way.THERE_AND_BACK);
        assertThatThrownBy(() -> orders(shop, new Quiet())).isInstanceOf(CannotGoOn.class);
        shop.refuse(values -> "rope".equals(values.get("article"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No rope.", ""))
                : Optional.empty());
        RunResult result = orders(shop, new Quiet());
        assertThat(shop.records("order")).hasSize(2);
        assertThat(shop.records("line")).extracting(line -> line.get("article")).containsExactly("flour", "gas");
        assertThat(rejects()).containsExactly("2 check-failed half-written");
        assertThat(kept.rejects.getFirst().cells()).containsExactly("O-1", "H-1", "2", "rope");
        assertThat(kept.rows(2, 3))
                .filteredOn(row -> row.outcome() == Outcome.REJECTED)
                .singleElement()
                .satisfies(row -> {
                    assertThat(row.number()).isEqualTo(2);
                    assertThat(row.note()).isEqualTo("check-failed half-written");
                });
        assertThat(result.balance().tally().writes().get(1).inserted()).isEqualTo(2);
        assertThat(result.balance().tally().writes().get(1).refused()).isEqualTo(1);
        assertThat(result.balance().tally().elsewhere()).isEqualTo(1);
    }

    @Test
    void wholeBatchesAndSingleRecordsAreNotWrittenTogether() {
        MemorySystem atomic = new MemorySystem(Orders.LINE);
        RecordSystem single = new RecordSystem(Orders.ORDER);
        assertThatThrownBy(() -> new Orders(single, kept, scratch)
                        .apart()
                        .linesTo(atomic)
                        .load(ORDERS, "", 100))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.CONNECTION_UNFIT));
    }

    @Test
    void rejectsAreToldOnceHoweverOftenTheBatchIsBegun() {
        system.refuse(values -> code(4).equals(values.get("hut_code"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No such hut.", ""))
                : Optional.empty());
        once(Map.of(code(9), Way.GONE));
        assertThatThrownBy(() -> run(HutLoad.huts(10) + "H-99999;x;many;\n")).isInstanceOf(CannotGoOn.class);
        assertThat(kept.rejects).isEmpty();
        RunResult result = run(HutLoad.huts(10) + "H-99999;x;many;\n");
        assertThat(kept.rejects).extracting(Reject::number).containsExactlyInAnyOrder(4L, 11L);
        assertThat(result.balance().counts().allRejected()).isEqualTo(2);
    }
}
