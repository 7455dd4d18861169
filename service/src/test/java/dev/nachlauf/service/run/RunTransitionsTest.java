package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.ServiceUnderTest;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Two hands change a run at the same time: exactly what is allowed happens, nothing is forgotten, no epoch goes back. */
class RunTransitionsTest {
    /** Rounds of each pair; ask for more with {@code -Dnachlauf.transition-rounds=2000}. */
    private static final int ROUNDS = Integer.getInteger("nachlauf.transition-rounds", 20);

    private static ServiceUnderTest service;
    private static RunTransitions transitions;
    private static ExecutorService hands;

    @BeforeAll
    static void start() {
        service = new ServiceUnderTest();
        transitions = service.bean(RunTransitions.class);
        hands = Executors.newFixedThreadPool(2);
        service.keepRun(1, "finished");
        service.holdTasks();
    }

    @AfterAll
    static void stop() {
        hands.shutdownNow();
        service.close();
    }

    private static final long EPOCH = 7;

    private static RunResult result(RunState state) {
        return new RunResult(state, List.of(), new Balance(0, Counts.NONE));
    }

    /** Everything that can happen to a run, by its name; true where it was made. */
    private static Map<String, Callable<Boolean>> all() {
        Map<String, Callable<Boolean>> all = new LinkedHashMap<>();
        all.put("claim", () -> transitions.claim(1).isPresent());
        all.put(
                "wait",
                () -> transitions
                        .waitForTarget(1, EPOCH, "away", Duration.ofHours(1))
                        .made());
        all.put("defect", () -> transitions.defect(1, EPOCH).isPresent());
        all.put(
                "finish",
                () -> transitions
                        .end(1, EPOCH, result(RunState.FINISHED), List.of(), Duration.ofDays(7))
                        .made());
        all.put(
                "hold",
                () -> transitions
                        .end(1, EPOCH, result(RunState.HELD), List.of(), Duration.ofDays(7))
                        .made());
        all.put(
                "planned",
                () -> transitions
                        .planned(1, EPOCH, result(RunState.FINISHED), List.of())
                        .made());
        all.put("stop", () -> transitions.stop(1, "test").made());
        all.put("release", () -> transitions.release(1, true, "test").made());
        all.put("discard", () -> transitions.discard(1, "test").made());
        return all;
    }

    /** What a run is. */
    private record Run(String state, long epoch, boolean stopRequested, boolean task) {
        static Run now() {
            String[] parts = service.query("SELECT state || ' ' || epoch || ' ' || stop_requested || ' ' || EXISTS"
                            + " (SELECT FROM scheduled_tasks WHERE task_name = 'run') FROM run WHERE id = 1")
                    .split(" ");
            return new Run(
                    parts[0], Long.parseLong(parts[1]), Boolean.parseBoolean(parts[2]), Boolean.parseBoolean(parts[3]));
        }
    }

    private static void set(String state) {
        service.execute("DELETE FROM scheduled_tasks WHERE task_name = 'run'; UPDATE run SET state = '" + state
                + "', epoch = " + EPOCH + ", stop_requested = false, defects = 0, unreachable_since = NULL,"
                + " beyond_limit = false WHERE id = 1");
    }

    @Test
    void aRunThatWaitsAndTriesAgainSaysOnceWhatItWaitsFor() {
        set("running");
        service.execute("DELETE FROM run_log");
        for (long epoch = EPOCH; epoch < EPOCH + 3; epoch++) {
            assertThat(transitions
                            .waitForTarget(1, epoch, "The register is away.", Duration.ofHours(1))
                            .made())
                    .isTrue();
            assertThat(transitions.claim(1)).hasValue(epoch + 1);
        }
        transitions.end(1, EPOCH + 3, result(RunState.FINISHED), List.of(), Duration.ofDays(7));
        assertThat(transitions.stop(1, "Ada").made()).isFalse();
        assertThat(service.query("SELECT string_agg(text, ' | ' ORDER BY id) FROM run_log"))
                .isEqualTo("Waits: The register is away. | Finished: 0 rows read.");
    }

    /** What the two do, one after the other: the state behind them, and whether each was made. */
    private static String after(String state, Callable<Boolean> first, Callable<Boolean> second, boolean swapped)
            throws Exception {
        set(state);
        boolean one = first.call();
        boolean two = second.call();
        Run run = Run.now();
        return (swapped ? two + " " + one : one + " " + two) + " " + run.state + " " + run.epoch + " "
                + run.stopRequested + " " + run.task;
    }

    @Test
    void anyTwoAtOnceAreLikeOneAfterTheOther() throws Exception {
        List<String> names = List.copyOf(all().keySet());
        int rounds = 0;
        for (String state : List.of("waiting", "running", "held")) {
            for (int i = 0; i < names.size(); i++) {
                for (int j = i; j < names.size(); j++) {
                    Callable<Boolean> first = all().get(names.get(i));
                    Callable<Boolean> second = all().get(names.get(j));
                    List<String> allowed =
                            List.of(after(state, first, second, false), after(state, second, first, true));
                    for (int round = 0; round < ROUNDS; round++) {
                        set(state);
                        String met = atOnce(first, second);
                        assertThat(allowed)
                                .as(names.get(i) + " and " + names.get(j) + " of a run that is " + state)
                                .contains(met);
                        rounds++;
                    }
                }
            }
        }
        assertThat(rounds).isEqualTo(3 * 45 * ROUNDS);
    }

    private static String atOnce(Callable<Boolean> first, Callable<Boolean> second) throws Exception {
        CyclicBarrier start = new CyclicBarrier(2);
        List<Future<Boolean>> made = new ArrayList<>();
        for (Callable<Boolean> one : List.of(first, second)) {
            made.add(hands.submit(() -> {
                start.await();
                return one.call();
            }));
        }
        boolean one = made.get(0).get();
        boolean two = made.get(1).get();
        Run run = Run.now();
        assertThat(run.epoch).isGreaterThanOrEqualTo(EPOCH);
        return one + " " + two + " " + run.state + " " + run.epoch + " " + run.stopRequested + " " + run.task;
    }

    @Test
    void whatWaitsHasATask() {
        for (String name : List.of("wait", "defect")) {
            set("running");
            call(name);
            assertThat(Run.now()).as(name).isEqualTo(new Run("waiting", EPOCH, false, true));
        }
        set("held");
        call("release");
        assertThat(Run.now()).isEqualTo(new Run("waiting", EPOCH, false, true));
    }

    @Test
    void aStopEndsAWaitingRunAtOnceAndFencesItsLastAttemptOff() {
        set("waiting");
        assertThat(call("stop")).isTrue();
        assertThat(Run.now()).isEqualTo(new Run("stopped", EPOCH + 1, true, false));
        assertThat(transitions.hold(1, EPOCH)).isFalse();
        assertThat(call("claim")).isFalse();
        assertThat(call("stop")).isFalse();
    }

    @Test
    void aRunThatIsToStopDoesNotWait() {
        set("running");
        call("stop");
        assertThat(call("wait")).isFalse();
        assertThat(Run.now()).isEqualTo(new Run("running", EPOCH, true, false));
    }

    @Test
    void patienceEnds() {
        set("running");
        assertThat(transitions
                        .waitForTarget(1, EPOCH, "away", Duration.ofHours(1))
                        .made())
                .isTrue();
        service.execute(
                "UPDATE run SET state = 'running', unreachable_since = now() - interval '2 hours' WHERE id = 1");
        assertThat(transitions
                        .waitForTarget(1, EPOCH, "away", Duration.ofHours(1))
                        .made())
                .isFalse();
    }

    @Test
    void runsThatNobodyCarriesOutAreFound() {
        for (String state : List.of("waiting", "running")) {
            set(state);
            assertThat(service.bean(RunUpkeep.class).reviveIdle()).isEqualTo(1);
            assertThat(Run.now().task).isTrue();
            assertThat(service.bean(RunUpkeep.class).reviveIdle()).isZero();
        }
        set("held");
        assertThat(service.bean(RunUpkeep.class).reviveIdle()).isZero();
    }

    @Test
    void aHeldRunIsNobodysToWrite() {
        set("held");
        assertThat(transitions.hold(1, EPOCH)).isFalse();
        set("running");
        assertThat(transitions.hold(1, EPOCH)).isTrue();
        assertThat(transitions.hold(1, EPOCH - 1)).isFalse();
    }

    private static boolean call(String name) {
        try {
            return all().get(name).call();
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }
}
