package dev.nachlauf.service.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.SetRecord;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.reject.Rejects;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Records that are set by hand: checked, and accounted for like those of any run. */
class RecordCorrectionTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_by_hand";
    private static ServiceUnderTest service;
    private static RecordCorrection correction;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        correction = service.bean(RecordCorrection.class);
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(
                REGISTER,
                "CREATE TABLE \"Hut's list\" (code text PRIMARY KEY, name text NOT NULL, beds integer, opens date,"
                        + " \"the note\" text)");
        service.connect(REGISTER);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void oneHut() {
        CLUSTER.execute(
                REGISTER,
                "TRUNCATE \"Hut's list\"; INSERT INTO \"Hut's list\" VALUES ('H-1', 'Larch', 8, '2026-05-01', 'old')");
    }

    private static RunView set(Map<String, String> key, Map<String, String> values) {
        return service.settled(correction
                .start("register", "Hut's list", new SetRecord(key, values), "Wenna")
                .id());
    }

    private static String huts() {
        return CLUSTER.query(
                REGISTER,
                "SELECT string_agg(concat_ws(' ', code, name, beds, opens, \"the note\"), ', ' ORDER BY code) FROM \"Hut's list\"");
    }

    @Test
    void aRecordIsCorrectedByARunThatSaysWhatItChanged() {
        RunView run = set(Map.of("code", "H-1"), Map.of("beds", "12", "the note", ""));
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.job()).isEqualTo("by-hand-register-hut-s-list");
        assertThat(run.startedBy()).isEqualTo("Wenna");
        assertThat(run.balance().updated()).isEqualTo(1);
        assertThat(run.changedFields()).isEqualTo(Map.of("beds", 1L, "the note", 1L));
        assertThat(huts()).isEqualTo("H-1 Larch 12 2026-05-01");
    }

    @Test
    void aRecordIsCreatedWithTheChecksOfAnyOther() {
        RunView run = set(Map.of("code", "007"), Map.of("name", "A \"new\", hut", "opens", "2026-06-02"));
        assertThat(run.warnings()).isEmpty();
        assertThat(huts()).isEqualTo("007 A \"new\", hut 2026-06-02, H-1 Larch 8 2026-05-01 old");
        run = set(Map.of("code", "H-1"), Map.of("beds", "many", "opens", "1.6."));
        assertThat(run.balance().rejected()).isEqualTo(1);
        List<RejectView> rejects =
                service.bean(Rejects.class).list(run.id(), null, false, null, 9).items();
        assertThat(rejects.getFirst().problems())
                .extracting(ProblemView::field)
                .containsExactlyInAnyOrder("beds", "opens");
    }

    @Test
    void aRecordThatIsNotThereCannotBeCorrected() {
        RunView run = set(Map.of("code", "H-9"), Map.of("beds", "3"));
        assertThat(run.balance().refused()).isEqualTo(1);
        assertThat(huts()).isEqualTo("H-1 Larch 8 2026-05-01 old");
    }

    @Test
    void whatIsWrongIsToldBeforeAnythingRuns() {
        assertThatThrownBy(() -> set(Map.of("code", "H-1"), Map.of("bedz", "3")))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("bedz");
        assertThatThrownBy(() -> set(Map.of("code", "H-1"), Map.of()))
                .hasMessageContaining("by its key and the values of other fields");
        assertThatThrownBy(() -> set(Map.of("code", "H-1"), Map.of("code", "H-2")))
                .hasMessageContaining("as a part of the key");
    }

    @Test
    void twoWhoSetOtherFieldsAtOnceEachWriteTheirOwn() throws Exception {
        CyclicBarrier barrier = new CyclicBarrier(2);
        try (ExecutorService two = Executors.newFixedThreadPool(2)) {
            List<Future<String>> both =
                    two.invokeAll(List.of(at(barrier, Map.of("beds", "20")), at(barrier, Map.of("name", "Fern"))));
            for (Future<String> one : both) {
                assertThat(one.get()).isIn("finished", "run-blocked");
            }
        }
        assertThat(huts())
                .isIn("H-1 Larch 20 2026-05-01 old", "H-1 Fern 8 2026-05-01 old", "H-1 Fern 20 2026-05-01 old");
    }

    private static Callable<String> at(CyclicBarrier barrier, Map<String, String> values) {
        return () -> {
            barrier.await();
            try {
                RunView run = set(Map.of("code", "H-1"), values);
                assertThat(run.balance().updated()).isEqualTo(1);
                return run.state();
            } catch (CannotGoOn e) {
                return e.problems().getFirst().code().id();
            }
        };
    }
}
