package dev.nachlauf.service.retention;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.KeptView.KeptLine;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CyclicBarrier;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Kept things end when nothing needs them any more, and not before. */
class RetentionTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_retention";
    private static ServiceUnderTest service;
    private static FileStore files;
    private static Retention retention;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        service = ServiceUnderTest.own();
        files = service.bean(FileStore.class);
        retention = service.bean(Retention.class);
        service.connect(REGISTER);
        Files.writeString(ServiceUnderTest.folder().resolve("retained.csv"), "code;beds\nX-0;1\n");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void job() {
        job = "huts-" + ++jobs;
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: retained.csv }
                write: { connection: register, records: hut, action: upsert, key: [code], same-names: true }
                limits: { rejected: 100%% }
                """.formatted(job), false, "test");
    }

    private static String keep(String text) throws IOException {
        return files.keep("huts.csv", new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)))
                .hash();
    }

    private RunView load(String hash) {
        RunView run = service.run(new StartRun(job, hash, "huts.csv", Map.of(), null), "test");
        assertThat(run.state()).as(run.reasons().toString()).isEqualTo("finished");
        return run;
    }

    private static void age(String table, String column, String which) {
        service.execute("UPDATE " + table + " SET " + column + " = now() - interval '181 days' WHERE " + which);
    }

    private static boolean isKept(String hash) {
        try {
            files.verify(hash);
            return true;
        } catch (CannotGoOn e) {
            return false;
        }
    }

    @Test
    void aFileThatNoRunHasReadGoesAndCanComeAgain() throws IOException {
        String old = keep("code;beds\nU-1;1\n");
        String fresh = keep("code;beds\nU-2;1\n");
        age("stored_file", "used_at", "hash = '" + old + "'");
        assertThat(retention.tidy().files()).isEqualTo(1);
        assertThat(isKept(old)).isFalse();
        assertThat(isKept(fresh)).isTrue();
        assertThatThrownBy(() -> files.find(old, "huts.csv")).isInstanceOf(CannotGoOn.class);
        assertThat(keep("code;beds\nU-1;1\n")).isEqualTo(old);
        assertThat(files.find(old, "huts.csv").size()).isEqualTo(16);
        assertThat(isKept(old)).isTrue();
    }

    @Test
    void whatARunHasReadAndItsLinesGoAfterTheirTimeAndItsSumsStay() throws Exception {
        String hash = keep("code;beds\nR-1;1\nR-2;2\n");
        RunView run = load(hash);
        age("stored_file", "used_at", "hash = '" + hash + "'");
        assertThat(retention.tidy()).isEqualTo(new Retention.Removed(0, 0, 0));
        age("run", "ended_at", "id = " + run.id());
        assertThat(retention.tidy()).isEqualTo(new Retention.Removed(1, 1, 0));
        assertThat(isKept(hash)).isFalse();
        assertThat(service.bean(RunViews.class).show(run.id()).balance()).isEqualTo(run.balance());
        try (HttpClient http = HttpClient.newHttpClient()) {
            HttpResponse<String> ledger =
                    http.send(service.request("/runs/" + run.id() + "/ledger").build(), BodyHandlers.ofString());
            assertThat(ledger.statusCode()).isEqualTo(410);
            assertThat(ledger.body()).contains("lines-removed");
        }
        assertThat(retention.tidy()).as("nothing twice").isEqualTo(new Retention.Removed(0, 0, 0));
    }

    @Test
    void openRejectsAndRowsInDoubtKeepWhatTheyNeed() throws IOException {
        String rejected = keep("code;beds\nO-1;many\nO-2;2\n");
        RunView open = load(rejected);
        job();
        String doubtful = keep("code;beds\nD-1;1\n");
        RunView doubt = load(doubtful);
        service.execute("UPDATE ledger_chunk SET state = 'pending' WHERE run_id = " + doubt.id());
        age("stored_file", "used_at", "hash IN ('" + rejected + "', '" + doubtful + "')");
        age("run", "ended_at", "id IN (" + open.id() + ", " + doubt.id() + ")");
        assertThat(retention.tidy()).isEqualTo(new Retention.Removed(0, 0, 0));
        service.execute("UPDATE ledger_chunk SET state = 'done' WHERE run_id = " + doubt.id());
        service.execute("UPDATE run SET open_rejects = 0 WHERE id = " + open.id());
        assertThat(retention.tidy()).isEqualTo(new Retention.Removed(2, 2, 0));
    }

    @Test
    void whoeverKeepsAContentWhileItIsRemovedHasIt() throws Exception {
        for (int round = 0; round < 30; round++) {
            String text = "code;beds\nW-" + round + ";1\n";
            String hash = keep(text);
            age("stored_file", "used_at", "hash = '" + hash + "'");
            CyclicBarrier start = new CyclicBarrier(2);
            ConcurrentLinkedQueue<Throwable> unexpected = new ConcurrentLinkedQueue<>();
            Thread tidying = Thread.startVirtualThread(() -> {
                try {
                    start.await();
                    retention.tidy();
                } catch (Exception e) {
                    unexpected.add(e);
                }
            });
            start.await();
            keep(text);
            tidying.join();
            assertThat(unexpected).isEmpty();
            assertThat(isKept(hash)).isTrue();
            assertThat(files.find(hash, "huts.csv").hash()).isEqualTo(hash);
        }
    }

    @Test
    void whatAKilledProcessLeftBehindIsRemoved() throws IOException {
        Path looks = Files.createDirectories(service.home().resolve("scratch/looks"));
        Path left = Files.createDirectory(looks.resolve("look-left"));
        Files.writeString(left.resolve("records"), "rows");
        Path arriving = Files.writeString(service.home().resolve("files/arriving7"), "half a file");
        Path fresh = Files.createDirectory(looks.resolve("look-fresh"));
        FileTime old = FileTime.from(Instant.now().minus(Duration.ofDays(2)));
        Files.setLastModifiedTime(left, old);
        Files.setLastModifiedTime(arriving, old);
        assertThat(retention.tidy()).isEqualTo(new Retention.Removed(0, 0, 2));
        assertThat(left).doesNotExist();
        assertThat(fresh).exists();
        Files.delete(fresh);
    }

    @Test
    void whatIsKeptIsAFigureForPeopleAndForPrograms() throws Exception {
        long before = line("uploads").count();
        keep("code;beds\nF-1;1\n");
        assertThat(line("uploads").count()).isEqualTo(before + 1);
        assertThat(line("uploads").keptForDays()).isEqualTo(2);
        assertThat(line("files").keptForDays()).isEqualTo(180);
        assertThat(line("rejects").keptForDays()).isNull();
        assertThat(line("ledgers").bytes()).isPositive();
        try (HttpClient http = HttpClient.newHttpClient()) {
            String address = service.address().replace("/api/v1", "");
            var metric = service.request("")
                    .uri(java.net.URI.create(address + "/actuator/metrics/nachlauf.kept?tag=what:uploads"));
            assertThat(http.send(metric.build(), BodyHandlers.ofString()).body())
                    .contains("\"value\":" + (before + 1) + ".0");
            var stranger = java.net.http.HttpRequest.newBuilder(java.net.URI.create(address + "/actuator/metrics"));
            assertThat(http.send(stranger.build(), BodyHandlers.ofString()).statusCode())
                    .isEqualTo(401);
        }
    }

    private static KeptLine line(String what) {
        return service.bean(KeptThings.class).all().lines().stream()
                .filter(line -> line.what().equals(what))
                .findFirst()
                .orElseThrow();
    }
}
