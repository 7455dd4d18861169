package dev.nachlauf.service.reject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.FixRejects;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.api.RejectsChosen;
import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.SetRejectsAside;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.RunResubmitting;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Rejected rows are corrected, set aside and sent again, through the service's own beans against a real target. */
class ResubmitTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_rejects";
    private static final String SPRING =
            "code;name;beds\nH-1;Larch;8\nH-2;Fern;many\nH-3;Moss;900\nH-4;Oak;3\nH-5;Ivy;many\nH-6;Birch;901\n";
    private static ServiceUnderTest service;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(
                REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, name text, beds integer CHECK (beds < 500))");
        service.connect(REGISTER);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void job() {
        job = "huts-" + ++jobs;
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
        save("", "action: upsert");
    }

    private void save(String steps, String action) {
        save(steps, action, 1);
    }

    private void save(String steps, String action, int header) {
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: upload, format: { as: delimited, delimiter: ";", header-row: %d }, fields: { beds: { is: integer } } }
                %swrite:
                  connection: register
                  records: hut
                  %s
                  key: [code]
                  map: { code: code, name: name, beds: beds }
                """.formatted(job, header, steps, action), false, "test");
    }

    private RunView load() {
        return load(SPRING);
    }

    private RunView load(String csv) {
        return service.run(job, "huts.csv", csv.getBytes(StandardCharsets.UTF_8), null);
    }

    private static RunView again(RunView run) {
        return service.settled(service.bean(RunResubmitting.class)
                .start(run.id(), new ResubmitRejects(null), "Perran")
                .id());
    }

    private static List<RejectView> rejects(RunView run) {
        return service.bean(Rejects.class).list(run.id(), null, true, null, 100).items();
    }

    private static RejectView reject(RunView run, long row) {
        return rejects(run).stream()
                .filter(reject -> reject.row() == row)
                .findFirst()
                .orElseThrow();
    }

    private static long fix(RejectsChosen chosen, String beds) {
        return service.bean(RejectDecisions.class).fix(new FixRejects(chosen, Map.of("beds", beds)), "Wenna");
    }

    private static RejectsChosen only(RejectView reject) {
        return new RejectsChosen(List.of(reject.id()), null, null);
    }

    private static RejectsChosen where(RunView run, String formula) {
        return new RejectsChosen(null, run.id(), formula);
    }

    private static void setAside(RejectsChosen chosen, boolean aside) {
        service.bean(RejectDecisions.class).setAside(new SetRejectsAside(chosen, aside, "Closed for good"), "Kerra");
    }

    private static String huts() {
        return CLUSTER.query(REGISTER, "SELECT string_agg(code || ' ' || beds, ', ' ORDER BY code) FROM hut");
    }

    private static String told(RunView run) {
        return String.join(
                ", ",
                rejects(run).stream()
                        .map(reject -> reject.row() + " " + reject.state() + " " + reject.attempts())
                        .toList());
    }

    private static long open(RunView run) {
        return service.bean(RunViews.class).show(run.id()).openRejects();
    }

    @Test
    void whatWasCorrectedGoesThroughAndTheRestKeepsItsNumber() {
        RunView run = load();
        assertThat(told(run)).isEqualTo("2 open 1, 3 open 1, 5 open 1, 6 open 1");
        assertThat(fix(where(run, "beds = 'many'"), "7")).isEqualTo(2);
        RejectView moss = reject(run, 3);
        fix(only(moss), "950");
        RunView child = again(run);
        BalanceView balance = child.balance();
        assertThat(child.state()).isEqualTo("finished");
        assertThat(List.of(balance.read(), balance.inserted(), balance.refused()))
                .as("only the rejected rows are read")
                .containsExactly(4L, 2L, 2L);
        assertThat(balance.balanced()).isTrue();
        assertThat(child.choice().resubmits()).isEqualTo(run.id());
        assertThat(huts()).isEqualTo("H-1 8, H-2 7, H-4 3, H-5 7");
        assertThat(told(run)).isEqualTo("2 closed 1, 3 open 2, 5 closed 1, 6 open 2");
        assertThat(reject(run, 2).closedBy()).isEqualTo(child.id());
        assertThat(reject(run, 3).id()).isEqualTo(moss.id());
        assertThat(told(child)).as("what it has rejected once more").isEqualTo("3 open 2, 6 open 2");
        fix(where(run, "beds like '9%'"), "70");
        again(run);
        assertThat(told(run)).isEqualTo("2 closed 1, 3 closed 2, 5 closed 1, 6 closed 2");
        assertThat(huts()).isEqualTo("H-1 8, H-2 7, H-3 70, H-4 3, H-5 7, H-6 70");
        assertThatThrownBy(() -> again(run)).hasMessageContaining("It has no open rejects.");
        assertThatThrownBy(() -> again(child)).hasMessageContaining("their rejects are kept there");
    }

    @Test
    void whatIsSetAsideStays() {
        RunView run = load();
        RejectView fern = reject(run, 2);
        setAside(only(fern), true);
        fix(where(run, "beds = 'many' or beds > '8'"), "5");
        again(run);
        assertThat(told(run)).isEqualTo("2 set-aside 1, 3 closed 1, 5 closed 1, 6 closed 1");
        assertThatThrownBy(() -> fix(only(fern), "5")).hasMessageContaining("was set aside by Kerra: Closed for good");
        assertThatThrownBy(() -> fix(only(reject(run, 3)), "6"))
                .hasMessageContaining("is closed: its row went through");
        setAside(only(fern), false);
        fix(only(fern), "6");
        again(run);
        assertThat(told(run)).isEqualTo("2 closed 1, 3 closed 1, 5 closed 1, 6 closed 1");
        assertThat(huts()).contains("H-2 6");
    }

    @Test
    void someOfThemCanBeSentAlone() {
        RunView run = load();
        fix(where(run, "beds = 'many'"), "7");
        RejectView ivy = reject(run, 5);
        RunResubmitting resubmitting = service.bean(RunResubmitting.class);
        service.settled(resubmitting
                .start(run.id(), new ResubmitRejects(List.of(ivy.id())), "Perran")
                .id());
        assertThat(told(run)).isEqualTo("2 open 1, 3 open 1, 5 closed 1, 6 open 1");
        assertThatThrownBy(() -> resubmitting.start(
                        run.id(),
                        new ResubmitRejects(List.of(ivy.id(), reject(run, 2).id())),
                        "Perran"))
                .hasMessageContaining("1 of these rejects are not open ones of run " + run.id());
        assertThat(reject(run, 2).sentBy()).as("nothing of it counts").isNull();
    }

    @Test
    void theyGoThroughTheVersionThatIsNamed() {
        RunView run = load();
        fix(where(run, "beds = 'many'"), "7");
        save("steps:\n  - rule: beds < 5\n    message: Too many beds\n", "action: upsert");
        RunResubmitting resubmitting = service.bean(RunResubmitting.class);
        RunView newest = again(run);
        assertThat(newest.jobVersion()).isEqualTo(2);
        assertThat(newest.balance().inserted()).isZero();
        RunView first = service.settled(resubmitting
                .start(run.id(), new ResubmitRejects(null, null, null, 1), "Perran")
                .id());
        assertThat(first.jobVersion()).isEqualTo(1);
        assertThat(first.balance().inserted()).isEqualTo(2);
        assertThatThrownBy(() -> resubmitting.start(run.id(), new ResubmitRejects(null, null, null, 9), "Perran"))
                .hasMessageContaining("has no version 9");
    }

    @Test
    void aRunThatIsStoppedGivesBackWhatItHasNotSent() {
        RunView run = load();
        fix(where(run, "beds = 'many'"), "7");
        for (int round = 0; round < 5; round++) {
            long child = service.bean(RunResubmitting.class)
                    .start(run.id(), new ResubmitRejects(null), "Perran")
                    .id();
            tried(() -> service.bean(Runs.class).stop(child, "Perran"));
            RunView ended = service.settled(child);
            assertThat(ended.state()).isIn("stopped", "finished");
            assertThat(rejects(run))
                    .allSatisfy(reject -> assertThat(reject.sentBy()).isNull());
        }
        again(run);
        assertThat(told(run)).matches("2 closed 1, 3 open \\d, 5 closed 1, 6 open \\d");
        assertThat(open(run)).isEqualTo(2);
    }

    @Test
    void nothingOfADecisionCountsWhereAPartOfItIsWrong() {
        RunView run = load();
        RejectView fern = reject(run, 2);
        RejectsChosen both = new RejectsChosen(List.of(fern.id(), 987_654L), null, null);
        assertThatThrownBy(() -> fix(both, "5")).hasMessageContaining("There is no reject 987654.");
        assertThatThrownBy(() -> service.bean(RejectDecisions.class)
                        .fix(new FixRejects(only(fern), Map.of("bedz", "5")), "Wenna"))
                .hasMessageContaining("has no column bedz");
        assertThatThrownBy(() -> fix(where(run, "bedz = 'many'"), "5")).hasMessageContaining("bedz");
        assertThat(reject(run, 2).corrections()).isEmpty();
    }

    @Test
    void aJobThatReadsOtherwiseNowSendsNothing() {
        RunView run = load("code;name;beds\n" + SPRING);
        assertThat(told(run)).isEqualTo("1 open 1, 3 open 1, 4 open 1, 6 open 1, 7 open 1");
        save("", "action: upsert", 2);
        RunView child = again(run);
        assertThat(child.state()).isEqualTo("failed");
        assertThat(child.reasons().getFirst().sentence())
                .isEqualTo("Row 1 reads otherwise now than when it was rejected.");
        assertThat(told(run)).as("nothing is lost").isEqualTo("1 open 1, 3 open 1, 4 open 1, 6 open 1, 7 open 1");
    }

    @Test
    void aSumIsReadWholeAgain() {
        save("steps: [{ combine: [code], make: { name: first(name), beds: sum(beds) } }]\n", "action: upsert");
        RunView run = load("code;name;beds\nH-1;Larch;8\nH-2;Fern;400\nH-2;Fern;200\nH-1;Larch;4\n");
        assertThat(huts()).isEqualTo("H-1 12");
        fix(where(run, "code = 'H-2'"), "250");
        again(run);
        assertThat(huts()).isEqualTo("H-1 12, H-2 450");
        assertThat(told(run)).isEqualTo("2 closed 1");
    }

    @Test
    void eachOfTheRowsThatWereMadeOfOneKeepsItsReject() {
        save(
                "steps: [{ wide-to-long: [beds, bunks], name: kind, value: beds }, { set: { code: \"hut || kind\" } }]\n",
                "action: upsert");
        RunView run = load("hut;name;beds;bunks\nH-1;Larch;900;901\nH-2;Fern;7;902\n");
        assertThat(told(run)).isEqualTo("1 open 1, 1 open 1, 2 open 1");
        again(run);
        assertThat(told(run)).isEqualTo("1 open 2, 1 open 2, 2 open 2");
        assertThat(open(run)).isEqualTo(3);
    }

    @Test
    void nothingCountsAsGone() {
        CLUSTER.execute(REGISTER, "INSERT INTO hut VALUES ('H-1', 'Larch', 8)");
        save("", "action: replace");
        RunView run = load();
        CLUSTER.execute(REGISTER, "INSERT INTO hut VALUES ('H-9', 'New one', 8)");
        fix(where(run, "beds = 'many'"), "7");
        again(run);
        assertThat(huts()).isEqualTo("H-1 8, H-2 7, H-4 3, H-5 7, H-9 8");
    }

    @Test
    void ofTwoWhoDecideAtOnceOneComesFirst() throws Exception {
        for (int round = 0; round < 10; round++) {
            RunView run = load("code;name;beds\nH-2;Fern;many\n");
            RejectView fern = reject(run, 1);
            Callable<String> fixing = () -> tried(() -> fix(only(fern), "5"));
            Callable<String> aside = () -> tried(() -> setAside(only(fern), true));
            try (ExecutorService hands = Executors.newFixedThreadPool(2)) {
                List<Future<String>> both = hands.invokeAll(List.of(fixing, aside));
                assertThat(both.get(1).get()).isEmpty();
                RejectView now = reject(run, 1);
                assertThat(now.state()).isEqualTo("set-aside");
                if (both.get(0).get().isEmpty()) {
                    assertThat(now.corrections()).containsEntry("beds", "5");
                } else {
                    assertThat(both.get(0).get()).contains("was set aside");
                    assertThat(now.corrections()).isEmpty();
                }
            }
        }
    }

    private static String tried(Runnable decision) {
        try {
            decision.run();
            return "";
        } catch (CannotGoOn e) {
            return e.getMessage();
        }
    }

    @Test
    void twoWhoSendThemAgainInTheSameMomentMakeOneRun() throws Exception {
        RunView run = load();
        fix(where(run, "beds = 'many'"), "7");
        Callable<String> hand = () -> tried(() -> again(run));
        try (ExecutorService hands = Executors.newFixedThreadPool(2)) {
            List<Future<String>> both = hands.invokeAll(List.of(hand, hand));
            long refused = 0;
            for (Future<String> one : both) {
                refused += one.get().isEmpty() ? 0 : 1;
            }
            // the second one either meets the first, or comes after it and sends what is still open
            assertThat(refused).isLessThanOrEqualTo(1);
        }
        assertThat(told(run)).matches("2 closed 1, 3 open [23], 5 closed 1, 6 open [23]");
        assertThat(open(run)).isEqualTo(2);
        assertThat(huts()).isEqualTo("H-1 8, H-2 7, H-4 3, H-5 7");
    }
}
