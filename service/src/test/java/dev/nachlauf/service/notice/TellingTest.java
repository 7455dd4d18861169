package dev.nachlauf.service.notice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import com.sun.net.httpserver.HttpServer;
import dev.nachlauf.api.NoticeView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.standins.MailHost;
import dev.nachlauf.standins.MailHost.Mail;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** People and programs that are told what has become of runs: the real service, a real mail server, a real web server. */
class TellingTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_telling";
    private static final BlockingQueue<String> CALLS = new LinkedBlockingQueue<>();
    private static ServiceUnderTest service;
    private static MailHost mails;
    private static HttpServer office;
    private static volatile int officeAnswers = 204;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(
                REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, beds integer CHECK (beds < 100), guest text)");
        service.connect(REGISTER);
        mails = MailHost.start("guides", "s3cret-of-the-mail", false);
        office = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        office.createContext("/", exchange -> {
            try (exchange) {
                CALLS.add(new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
                exchange.sendResponseHeaders(officeAnswers, -1);
            }
        });
        office.start();
        secret("mail", "s3cret-of-the-mail");
        secret("office", "known-to-both");
        connection("""
                nachlauf: 1
                connection: mail
                type: mail
                settings: { host: 127.0.0.1, port: %d, tls: off, user: guides, password: { file: mail }, from: nachlauf@union.example, to: office@union.example }
                """.formatted(mails.port()));
        connection("""
                nachlauf: 1
                connection: office
                type: webhook
                settings: { address: 'http://127.0.0.1:%d/runs', secret: { file: office }, patience: 2 }
                """.formatted(office.getAddress().getPort()));
    }

    private static void secret(String name, String value) throws IOException {
        Path folder = Files.createDirectories(service.home().resolve("secrets"));
        Path file = Files.writeString(folder.resolve(name), value);
        Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    }

    private static void connection(String document) {
        service.bean(Connections.class).save("connection.yaml", document, "test");
    }

    @AfterAll
    static void stop() {
        service.close();
        mails.close();
        office.stop(0);
    }

    @BeforeEach
    void aJobOfItsOwn() {
        job = "told-" + ++jobs;
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
        CALLS.clear();
        officeAnswers = 204;
    }

    private void save(String tell) {
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read:
                  upload: the huts
                  fields: { beds: { is: integer } }
                unlike-last-time: allow
                limits: { rejected: 50%% }
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map: { code: code, beds: beds }
                tell: %s
                """.formatted(job, tell), false, "test");
    }

    private RunView run(String rows, String mode) {
        return service.run(job, "huts.csv", ("code,beds\n" + rows).getBytes(StandardCharsets.UTF_8), mode);
    }

    private List<NoticeView> told(RunView run) {
        return ServiceUnderTest.patiently()
                .until(
                        () -> service.bean(Notices.class).of(run.id()),
                        notices -> notices.stream()
                                .noneMatch(notice -> notice.state().equals("wanted")));
    }

    private static Mail last() {
        return mails.mails().getLast();
    }

    private String mailsOf(RunView run) {
        return mails.mails().stream()
                .map(Mail::source)
                .filter(mail -> mail.contains("Run " + run.id() + " of " + job))
                .collect(Collectors.joining());
    }

    @Test
    void ofRejectsWithTheirReasonsAndNoValue() {
        save("[{ by: mail, when: [rejects] }, { by: office }]");
        RunView run = run("H-1,8\nH-2,secret-of-a-guest\nH-3,9\nH-4,500\n", "write");
        assertThat(told(run))
                .extracting(NoticeView::connection, NoticeView::state, NoticeView::note, NoticeView::tries)
                .containsExactly(
                        tuple("mail", "sent", "Sent to office@union.example.", 1),
                        tuple("office", "sent", "127.0.0.1 answers 204.", 1));
        String mail = mailsOf(run).replace("\r\n", "\n");
        assertThat(mail)
                .contains("Subject: Run " + run.id() + " of " + job + " has left 2 rejects\n")
                .contains("""
                        source   huts.csv
                        """, """
                        read      4
                        inserted  2
                        rejected  2

                        Rejects by reason:
                             1  check-failed (beds)
                             1  value-malformed (beds)
                        """)
                .contains("See it: http://127.0.0.1:", "/runs/" + run.id())
                .doesNotContain("secret-of-a-guest", "500", "H-2");
        JsonNode facts = JsonMapper.shared().readTree(CALLS.remove());
        assertThat(facts.path("occasions").toString()).isEqualTo("[\"rejects\"]");
        assertThat(facts.path("run").asLong()).isEqualTo(run.id());
        assertThat(facts.path("state").asString()).isEqualTo("finished");
        assertThat(facts.path("balance").toString()).isEqualTo("{\"read\":4,\"inserted\":2,\"rejected\":2}");
        assertThat(facts.path("rejects").toString())
                .isEqualTo("[{\"code\":\"check-failed\",\"field\":\"beds\",\"rows\":1},"
                        + "{\"code\":\"value-malformed\",\"field\":\"beds\",\"rows\":1}]");
    }

    @Test
    void onlyWhenThereIsSomethingToTell() {
        save("[{ by: mail }, { by: office, when: [failed] }]");
        assertThat(told(run("H-1,8\n", "write"))).isEmpty();
        assertThat(told(run("H-1,9\nH-2,9\nH-3,x\n", "dry-run"))).isEmpty();
        RunView rejects = run("H-1,9\nH-2,9\nH-3,x\n", "write");
        assertThat(told(rejects)).extracting(NoticeView::connection).containsExactly("mail");
    }

    @Test
    void ofARunThatIsHeldAndOfNothingMoreWhenItGoesOn() {
        save("{ by: mail, to: [duty@union.example, warden@union.example] }");
        RunView run = run("H-1,8\n", "hold");
        assertThat(told(run)).extracting(NoticeView::occasions).containsExactly(List.of("held"));
        assertThat(last().to()).containsExactly("duty@union.example", "warden@union.example");
        assertThat(mailsOf(run))
                .contains("Subject: Run " + run.id() + " of " + job + " is held", "held-for-review: The run");
        service.bean(Runs.class).release(run.id(), false, "Wenna");
        ServiceUnderTest.patiently().until(() -> service.settled(run.id()).ended());
        assertThat(told(run)).hasSize(1);
    }

    @Test
    void ofAFailureAndOfItsEnd() {
        save("{ by: office }");
        CLUSTER.execute(REGISTER, "ALTER TABLE hut RENAME TO gone");
        RunView failed = run("H-1,8\n", "write");
        CLUSTER.execute(REGISTER, "ALTER TABLE gone RENAME TO hut");
        assertThat(failed.state()).isEqualTo("failed");
        assertThat(told(failed)).extracting(NoticeView::occasions).containsExactly(List.of("failed"));
        RunView again = run("H-1,8\nH-2,8\nH-3,x\n", "write");
        assertThat(told(again)).extracting(NoticeView::occasions).containsExactly(List.of("rejects", "recovered"));
        RunView next = run("H-1,8\n", "write");
        assertThat(told(next)).isEmpty();
        assertThat(CALLS.stream()
                        .map(call ->
                                JsonMapper.shared().readTree(call).path("title").asString()))
                .containsExactly(
                        "Run " + failed.id() + " of " + job + " has failed",
                        "Run " + again.id() + " of " + job
                                + " has left 1 reject and has finished, after a run that failed");
    }

    @Test
    void againWhileTheReceiverIsInTrouble() {
        officeAnswers = 503;
        save("{ by: office, when: [rejects] }");
        RunView run = run("H-1,8\nH-2,8\nH-3,x\n", "write");
        Notices notices = service.bean(Notices.class);
        NoticeView waiting = ServiceUnderTest.patiently()
                .until(
                        () -> notices.of(run.id()).getFirst(),
                        notice -> !notice.note().isEmpty());
        assertThat(waiting.state()).isEqualTo("wanted");
        assertThat(waiting.note()).isEqualTo("127.0.0.1 doesn't take the call: it answers 503.");
        assertThat(Objects.requireNonNull(waiting.due())).isAfter(waiting.at().plusSeconds(9));
        officeAnswers = 200;
        service.execute("UPDATE notice SET due = now() WHERE run_id = " + run.id());
        service.bean(Telling.class).wake();
        assertThat(told(run)).extracting(NoticeView::state, NoticeView::tries).containsExactly(tuple("sent", 2));
        // the receiver knows by the mark that it is the same
        assertThat(CALLS.stream()
                        .map(call -> JsonMapper.shared()
                                .readTree(call)
                                .path("notice")
                                .asString())
                        .distinct())
                .hasSize(1);
        assertThat(service.query("SELECT text FROM run_log WHERE run_id = " + run.id() + " ORDER BY id DESC LIMIT 1"))
                .isEqualTo("office is told (rejects): 127.0.0.1 answers 200.");
    }

    @Test
    void givesUpAtLastAndTriesAgainWhenSomebodyAsks() throws Exception {
        officeAnswers = 500;
        save("{ by: office, when: [rejects] }");
        RunView run = run("H-1,8\nH-2,8\nH-3,x\n", "write");
        Notices notices = service.bean(Notices.class);
        ServiceUnderTest.patiently()
                .until(() -> !notices.of(run.id()).getFirst().note().isEmpty());
        service.execute("UPDATE notice SET due = now(), tries = 11 WHERE run_id = " + run.id());
        service.bean(Telling.class).wake();
        assertThat(told(run).getFirst().note())
                .isEqualTo("127.0.0.1 doesn't take the call: it answers 500. It was tried 12 times.");
        officeAnswers = 204;
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(
                        service.request("/runs/" + run.id() + "/notices/again")
                                .POST(HttpRequest.BodyPublishers.noBody())
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(told(run).getFirst().state()).isEqualTo("sent");
    }

    /** One that never answers keeps nobody else waiting, and its run least of all. */
    @Test
    void othersWhileOneNeverAnswers() throws IOException {
        try (ServerSocket silent = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            secret("silent", "known-to-both");
            connection("""
                    nachlauf: 1
                    connection: silent
                    type: webhook
                    settings: { address: 'http://127.0.0.1:%d/', secret: { file: silent }, patience: 1 }
                    """.formatted(silent.getLocalPort()));
            save("[{ by: silent }, { by: mail }]");
            RunView run = run("H-1,8\nH-2,8\nH-3,x\n", "write");
            assertThat(run.state()).isEqualTo("finished");
            List<NoticeView> notices = ServiceUnderTest.patiently()
                    .until(
                            () -> service.bean(Notices.class).of(run.id()),
                            now -> now.stream()
                                    .noneMatch(notice -> notice.note().isEmpty()));
            assertThat(notices).extracting(NoticeView::state).containsExactly("wanted", "sent");
            assertThat(notices.getFirst().note()).contains("doesn't answer within 1 s.");
            service.execute("UPDATE notice SET state = 'failed' WHERE state = 'wanted'");
        }
    }

    @Test
    void nobodyWhereTheConnectionIsGone() {
        save("{ by: office, when: [rejects] }");
        service.execute("UPDATE connection SET name = 'elsewhere' WHERE name = 'office'");
        RunView run = run("H-1,8\nH-2,8\nH-3,x\n", "write");
        assertThat(run.state()).isEqualTo("finished");
        assertThat(told(run).getFirst().note()).isEqualTo("There is no connection office.");
        service.execute("UPDATE connection SET name = 'office' WHERE name = 'elsewhere'");
    }

    @Test
    void onceThoughTwoHandsReachForIt() throws Exception {
        save("{ by: office, when: [rejects] }");
        RunView run = run("H-1,8\nH-2,8\nH-3,x\n", "write");
        told(run);
        Notices notices = service.bean(Notices.class);
        for (int round = 0; round < 20; round++) {
            CountDownLatch together = new CountDownLatch(1);
            List<Future<List<NoticeEntity>>> hands = new ArrayList<>();
            try (ExecutorService threads = Executors.newFixedThreadPool(2)) {
                for (int hand = 0; hand < 2; hand++) {
                    hands.add(threads.submit(() -> {
                        together.await();
                        return notices.take(16);
                    }));
                }
                // due now, for whoever asks first: the service's own worker may be it
                service.execute(
                        "UPDATE notice SET state = 'wanted', tries = 0, due = now() WHERE run_id = " + run.id());
                together.countDown();
            }
            List<NoticeEntity> taken = new ArrayList<>();
            for (Future<List<NoticeEntity>> hand : hands) {
                taken.addAll(hand.get(1, TimeUnit.MINUTES));
            }
            assertThat(taken).hasSizeLessThanOrEqualTo(1);
            assertThat(notices.of(run.id()).getFirst().tries()).isEqualTo(1);
        }
        service.execute("UPDATE notice SET state = 'failed', note = '' WHERE run_id = " + run.id());
    }

    @Test
    void whateverOneSaysWhoComesBackAfterOthersHaveTakenItOver() {
        save("{ by: office, when: [rejects] }");
        RunView run = run("H-1,8\nH-2,8\nH-3,x\n", "write");
        NoticeView sent = told(run).getFirst();
        service.execute("UPDATE notice SET state = 'wanted', tries = 3, due = now() + interval '1 day' WHERE run_id = "
                + run.id());
        NoticeEntity late = new NoticeEntity();
        late.id = sent.id();
        late.runId = run.id();
        late.tries = 2;
        Notices notices = service.bean(Notices.class);
        notices.failed(late, "late");
        notices.later(late, "late");
        notices.sent(late, "late");
        NoticeView now = notices.of(run.id()).getFirst();
        assertThat(now.note()).isEqualTo(sent.note());
        assertThat(now.state()).isEqualTo("wanted");
    }

    @Test
    void nobodyWithoutSayingWhoWhenTheJobIsSaved() {
        refused("{ by: register }", "The connection register tells nobody.");
        refused("{ by: nowhere }", "There is no connection nowhere.");
        refused("{ by: mail, to: [warden] }", "'warden' is not an e-mail address.");
        refused(
                "{ by: office, to: [warden@union.example] }",
                "A webhook has one address, that of its connection, and no receivers beside it.");
        refused("{ by: mail, when: [late] }", "Nobody is told when a run is late.");
    }

    private void refused(String tell, String sentence) {
        assertThatThrownBy(() -> save(tell))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems())
                                .extracting(Problem::sentence)
                                .contains(sentence));
    }
}
