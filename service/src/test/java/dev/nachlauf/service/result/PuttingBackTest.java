package dev.nachlauf.service.result;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.PutBackView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.PutBackRuns;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Results that are put beside the file that was read. */
class PuttingBackTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_put_back";
    private static ServiceUnderTest service;
    private static int jobs;

    private String job;
    private Path place;

    @BeforeAll
    static void start() {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        service.connect(REGISTER);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void aPlaceOfItsOwn() throws IOException {
        job = "back-" + ++jobs;
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
        place = Files.createDirectories(ServiceUnderTest.folder().resolve(job));
        service.bean(Connections.class)
                .save(
                        "wardens.yaml",
                        "nachlauf: 1\nconnection: wardens\ntype: folder\nsettings: { path: " + place + ", quiet: 0 }\n",
                        "test");
        Files.writeString(place.resolve("huts.csv"), "code,beds\nH-1,8\nH-2,x\n");
    }

    private void save(String results) {
        save(results, "always");
    }

    private void save(String results, String take) {
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read:
                  connection: wardens
                  file: huts.csv
                  take: %s
                  fields: { beds: { is: integer } }
                unlike-last-time: allow
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map: { code: code, beds: beds }
                results: %s
                """.formatted(job, take, results), false, "test");
    }

    private RunView run(String mode) {
        return service.run(new StartRun(job, null, null, Map.of(), mode), "Wenna");
    }

    private PutBackView settled(RunView run) {
        RunViews views = service.bean(RunViews.class);
        ServiceUnderTest.patiently()
                .until(() -> !Objects.requireNonNull(views.show(run.id()).putBack())
                        .state()
                        .equals("wanted"));
        return Objects.requireNonNull(views.show(run.id()).putBack());
    }

    @Test
    void lieBesideTheFileWithWhatBecameOfItsRows() throws IOException {
        save("{ put-back: '${file}-of-run-${run}', columns: [outcome=Status, message] }");
        RunView run = run("write");
        String name = "huts-of-run-" + run.id() + ".csv";
        assertThat(settled(run)).isEqualTo(new PutBackView("done", "The results are in wardens " + name + "."));
        assertThat(Files.readString(place.resolve(name)))
                .isEqualTo("code,beds,Status,message\nH-1,8,inserted,\nH-2,x,rejected,beds: 'x' is not an integer.\n");
        assertThat(place.resolve("huts.csv")).hasContent("code,beds\nH-1,8\nH-2,x\n");
    }

    /** The service may have died between the delivery and the note of it. */
    @Test
    void areThereOnceWhereAnAttemptWasBrokenOff() throws IOException {
        save("{ put-back: '${file}-results' }");
        RunView run = run("write");
        PutBackView first = settled(run);
        service.execute("UPDATE run SET put_back = 'wanted', put_back_note = '' WHERE id = " + run.id());
        assertThat(settled(run)).isEqualTo(first);
        assertThat(first.state()).isEqualTo("done");
    }

    @Test
    void takeThePlaceOfTheFileOnlyWhereTheJobSaysSo() throws IOException {
        save("{ put-back: '${file}' }");
        assertThat(settled(run("write")).note())
                .startsWith("The results could not be put back: There is a file huts.csv already.");
        assertThat(place.resolve("huts.csv")).hasContent("code,beds\nH-1,8\nH-2,x\n");
        save("{ put-back: '${file}', if-there: replace, columns: outcome }");
        assertThat(settled(run("write")).state()).isEqualTo("done");
        assertThat(place.resolve("huts.csv")).hasContent("code,beds,outcome\nH-1,8,unchanged\nH-2,x,rejected\n");
    }

    /** Else each run would load what the one before has put there. */
    @Test
    void areNoNewsToTheJobThatPutThemThere() {
        save("{ put-back: '${file}', if-there: replace }", "once");
        settled(run("write"));
        assertThat(place.resolve("huts.csv")).content().contains("outcome");
        assertThat(run("write").balance().read()).isZero();
    }

    @Test
    void areNotThereForRunsThatWriteNothingOrReadAGivenFile() {
        save("{ put-back: '${file}-results' }");
        assertThat(run("dry-run").putBack()).isNull();
        byte[] given = "code,beds\nH-7,7\n".getBytes(StandardCharsets.UTF_8);
        assertThat(service.run(job, "huts.csv", given, "write").putBack()).isNull();
    }

    @Test
    void areTriedAgainWhileThePlaceIsGone() throws IOException {
        save("{ put-back: '${file}-results' }");
        service.execute("UPDATE run SET put_back_due = NULL");
        RunView run = run("write");
        settled(run);
        PutBackRuns due = service.bean(PutBackRuns.class);
        service.execute(
                "UPDATE run SET put_back = 'wanted', put_back_tries = 1, put_back_due = now() + interval '1 day'"
                        + " WHERE id = " + run.id());
        due.later(run.id(), "The place can't be reached.");
        assertThat(service.query("SELECT put_back || ' ' || (put_back_due > now() + interval '5 seconds')::text"
                        + " || ' ' || put_back_note FROM run WHERE id = " + run.id()))
                .isEqualTo("wanted true The place can't be reached. It is tried again.");
        service.execute("UPDATE run SET put_back_tries = 8 WHERE id = " + run.id());
        due.later(run.id(), "The place can't be reached.");
        assertThat(settled(run))
                .isEqualTo(new PutBackView("failed", "The place can't be reached. It was tried 8 times."));
    }

    @Test
    void aRunIsTakenUpByOneOfTwoHands() throws InterruptedException {
        save("{ put-back: '${file}-results', if-there: replace }");
        RunView run = run("write");
        settled(run);
        PutBackRuns due = service.bean(PutBackRuns.class);
        for (int round = 0; round < 20; round++) {
            service.execute(
                    "UPDATE run SET put_back = 'wanted', put_back_tries = 0, put_back_due = now() + interval '1 day'"
                            + " WHERE id = " + run.id());
            Set<String> got = ConcurrentHashMap.newKeySet();
            CountDownLatch together = new CountDownLatch(1);
            try (ExecutorService hands = Executors.newFixedThreadPool(2)) {
                IntStream.range(0, 2)
                        .forEach(hand -> hands.submit(() -> {
                            together.await();
                            OptionalLong next = due.next();
                            next.ifPresent(id -> got.add(hand + " " + id));
                            return null;
                        }));
                // due now, for whoever asks first: the service's own worker may be it
                service.execute("UPDATE run SET put_back_due = NULL WHERE id = " + run.id());
                together.countDown();
                hands.shutdown();
                assertThat(hands.awaitTermination(5, TimeUnit.MINUTES)).isTrue();
            }
            assertThat(got).hasSizeLessThanOrEqualTo(1);
            assertThat(service.query("SELECT put_back_tries FROM run WHERE id = " + run.id()))
                    .isEqualTo("1");
        }
    }

    @Test
    void haveNoMeaningWhereNoFileIsRead() {
        assertThatThrownBy(() -> service.bean(Jobs.class).save("huts.yaml", """
                        nachlauf: 1
                        job: no-file
                        read: { connection: register, records: hut }
                        write: { connection: register, records: hut, action: upsert, key: [code], map: { code: code } }
                        results: { put-back: x }
                        """, false, "test"))
                .hasMessageContaining("put-back has no meaning where no file is read from a place");
    }
}
