package dev.nachlauf.service.environment;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import dev.nachlauf.api.PromotionView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.Promotions;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The same job in two environments, each with a database of its own; through the network interface where one is chosen. */
class EnvironmentsTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final HttpClient HTTP = HttpClient.newHttpClient();
    private static ServiceUnderTest service;

    @BeforeAll
    static void start() {
        service = new ServiceUnderTest();
        for (String place : List.of("trial", "live")) {
            CLUSTER.createDatabase("huts_of_" + place);
            CLUSTER.execute(
                    "huts_of_" + place,
                    "CREATE TABLE hut (code text PRIMARY KEY, beds integer, season text, changed timestamptz)");
        }
        service.connect("huts_of_trial");
        service.bean(Connections.class)
                .save("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: "huts_of_${place}", user: %s }
                """.formatted(CLUSTER.port(), PrivateCluster.ADMIN), "test");
    }

    @AfterAll
    static void stop() {
        HTTP.close();
        service.close();
    }

    @BeforeEach
    void empty() throws IOException {
        List.of("trial", "live").forEach(place -> CLUSTER.execute("huts_of_" + place, "TRUNCATE hut"));
        service.execute("DELETE FROM environment");
        Files.writeString(ServiceUnderTest.folder().resolve("places.csv"), "code,beds\nH-1,8\nH-2,4\n");
    }

    private static void both() {
        environment("trial", false, "place: trial, season: summer");
        environment("live", true, "place: live");
    }

    private static void environment(String name, boolean live, String values) {
        service.bean(Environments.class)
                .save(
                        name + ".yaml",
                        "nachlauf: 1\nenvironment: %s\nlive: %s\nvalues: { %s }\n".formatted(name, live, values),
                        "test");
    }

    private static int save(String job, String beds) {
        return in(
                "trial",
                () -> service.bean(Jobs.class)
                        .save("places.yaml", """
                nachlauf: 1
                job: %s
                parameters: { season: { is: text, default: winter } }
                read: { connection: inbox, file: "places*.csv" }
                write: { connection: register, records: hut, action: upsert, key: [code],
                         map: { code: code, beds: %s, season: ":season" } }
                """.formatted(job, beds), false, "test")
                        .version()
                        .version());
    }

    private static <T> T in(String environment, Supplier<T> work) {
        return ChosenEnvironment.during(environment, work);
    }

    private static RunView run(String job, String environment) {
        return in(environment, () -> service.run(new StartRun(job, null, null, Map.of(), null), "Wenna"));
    }

    private static String huts(String environment) {
        return CLUSTER.query(
                "huts_of_" + environment,
                "SELECT coalesce(string_agg(code || ' ' || beds || ' ' || season, ', ' ORDER BY code), '') FROM hut");
    }

    private static HttpResponse<String> promote(String job, String to, int version, String note) throws Exception {
        return post(
                "/jobs/" + job + "/promote",
                "{\"to\":\"%s\",\"version\":%d,\"note\":\"%s\"}".formatted(to, version, note));
    }

    private static HttpResponse<String> get(String path) throws Exception {
        return HTTP.send(service.request(path).build(), BodyHandlers.ofString());
    }

    private static HttpResponse<String> post(String path, String body) throws Exception {
        HttpRequest request = service.request(path)
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofString(body))
                .build();
        return HTTP.send(request, BodyHandlers.ofString());
    }

    @Test
    void withSeveralNothingIsAssumed() throws Exception {
        both();
        save("unchosen", "beds");
        HttpResponse<String> refused = post("/runs", "{\"job\":\"unchosen\"}");
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body())
                .contains("environment-unchosen")
                .contains("There are several environments, and none was named: live, trial.");
        assertThat(get("/connections/register/records/hut/found").body()).contains("environment-unchosen");
        assertThat(get("/connections/register/records/hut/found?environment=tral")
                        .body())
                .contains("There is no environment tral.")
                .contains("Did you mean trial?");
        assertThat(get("/connections/register/records/hut/found?environment=trial")
                        .statusCode())
                .isEqualTo(200);
    }

    @Test
    void theOnlyOneNeedNotBeNamed() {
        environment("trial", false, "place: trial, season: summer");
        save("only", "beds");
        RunView run = service.run(new StartRun("only", null, null, Map.of(), null), "Wenna");
        assertThat(run.state()).as("%s", run.reasons()).isEqualTo("finished");
        assertThat(run.environment()).isEqualTo("trial");
        assertThat(run.parameters()).isEqualTo(Map.of("season", "summer"));
        assertThat(huts("trial")).isEqualTo("H-1 8 summer, H-2 4 summer");
    }

    @Test
    void aLiveOneRunsWhatWasPromotedToIt() throws Exception {
        both();
        int tried = save("promoted", "beds");
        assertThat(run("promoted", "trial").balance().inserted()).isEqualTo(2);
        assertThatThrownBy(() -> run("promoted", "live"))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("No version of promoted was promoted to live");
        assertThat(promote("promoted", "live", tried, "first season").statusCode())
                .isEqualTo(200);
        int newer = save("promoted", "beds + 1");
        RunView live = run("promoted", "live");
        assertThat(live.jobVersion()).isEqualTo(tried);
        assertThat(live.balance().inserted())
                .as("files are taken in each environment")
                .isEqualTo(2);
        assertThat(huts("live")).isEqualTo("H-1 8 winter, H-2 4 winter");
        promote("promoted", "live", newer, "one bed more");
        assertThat(service.bean(Promotions.class).of("promoted"))
                .extracting(PromotionView::version, PromotionView::inForce, PromotionView::note)
                .containsExactly(tuple(newer, true, "one bed more"), tuple(tried, false, "first season"));
        assertThat(run("promoted", "live").note()).contains("loaded before");
    }

    @Test
    void whatCantRunThereIsNotPromoted() throws Exception {
        both();
        int version = save("unfit", "beds");
        assertThat(promote("unfit", "trial", version, "x").body()).contains("trial is not live");
        assertThat(promote("unfit", "live", version, " ").body()).contains("The note is missing.");
        CLUSTER.execute("huts_of_live", "ALTER TABLE hut RENAME beds TO places");
        try {
            HttpResponse<String> refused = promote("unfit", "live", version, "x");
            assertThat(refused.statusCode()).isEqualTo(422);
            assertThat(refused.body()).contains("target-field-unknown").contains("places");
        } finally {
            CLUSTER.execute("huts_of_live", "ALTER TABLE hut RENAME places TO beds");
        }
        assertThat(get("/jobs/unfit/promotions").body()).contains("\"items\":[]");
    }

    @Test
    void whatIsUnderWayAndWhatHappenedIsToldApart() throws Exception {
        both();
        promote("apart", "live", save("apart", "beds"), "x");
        RunView held = in("trial", () -> service.run(new StartRun("apart", null, null, Map.of(), "hold"), "Wenna"));
        assertThat(held.state()).isEqualTo("held");
        RunView live = run("apart", "live");
        assertThat(live.balance().inserted())
                .as("a held run is in the way of its own environment only")
                .isEqualTo(2);
        assertThatThrownBy(() -> run("apart", "trial")).hasMessageContaining("is held");
        assertThatThrownBy(() -> service.bean(Environments.class).retire("trial"))
                .hasMessageContaining("Run " + held.id() + " of apart is held in trial.");
        service.bean(Runs.class).release(held.id(), false, "Wenna");
        assertThat(service.settled(held.id()).balance().inserted()).isEqualTo(2);
        String history = "/connections/register/records/hut/history?key=code=H-1&environment=";
        assertThat(get(history + "live").body())
                .contains("\"run\":" + live.id())
                .doesNotContain("\"run\":" + held.id());
        assertThat(get(history + "trial").body()).contains("\"run\":" + held.id());
        assertThat(get("/runs?environment=live&job=apart").body())
                .contains("\"id\":" + live.id())
                .doesNotContain("\"id\":" + held.id());
        HttpResponse<String> undo = post("/runs/" + live.id() + "/undo", "{}");
        assertThat(undo.statusCode()).as(undo.body()).isLessThan(300);
        long undoing = service.bean(RunViews.class)
                .list("apart", null, 1)
                .items()
                .getFirst()
                .id();
        assertThat(service.settled(undoing).environment()).isEqualTo("live");
        assertThat(huts("live")).isEmpty();
        assertThat(huts("trial")).isEqualTo("H-1 8 summer, H-2 4 summer");
        service.bean(Environments.class).retire("trial");
        assertThat(service.bean(RunViews.class).show(held.id()).environment()).isEqualTo("trial");
    }

    @Test
    void whatRanBeforeThereWereAnyIsAPartOfEveryHistory() throws Exception {
        environment("trial", false, "place: trial");
        save("before", "beds");
        RunView before = run("before", "trial");
        String history = "/connections/register/records/hut/history?key=code=H-1&environment=";
        assertThat(get(history + "trial").body())
                .as("asking waits for the index, so nobody is at it while the run is changed")
                .contains("\"run\":" + before.id());
        // as a run that was started before there were environments
        service.execute("UPDATE run SET environment = '', indexed = false WHERE id = " + before.id()
                + "; DELETE FROM key_history WHERE run_id = " + before.id());
        both();
        for (String place : List.of("trial", "live")) {
            assertThat(get(history + place).body()).contains("\"run\":" + before.id());
        }
    }

    @Test
    void aDraftIsNotPromoted() throws Exception {
        both();
        save("drafted", "beds");
        int draft = in(
                "trial",
                () -> service.bean(Jobs.class)
                        .save("drafted.yaml", "nachlauf: 1\njob: drafted\n", true, "test")
                        .version()
                        .version());
        HttpResponse<String> refused = promote("drafted", "live", draft, "x");
        assertThat(refused.statusCode()).isEqualTo(409);
        assertThat(refused.body()).contains("Version " + draft + " of drafted is a draft with errors.");
    }

    @Test
    void aValueThatAParameterCantTakeIsToldByTheCheck() {
        environment("trial", false, "place: trial, season: spring");
        List<String> found = service.bean(Jobs.class).check("season.yaml", """
                nachlauf: 1
                job: season
                parameters: { season: { is: integer } }
                read: { connection: inbox, file: places.csv }
                write: { connection: register, records: hut, action: upsert, key: [code], same-names: true }
                """).problems().stream()
                .map(problem -> problem.code() + " " + problem.sentence())
                .toList();
        assertThat(found).anyMatch(problem -> problem.startsWith("value-malformed") && problem.contains("spring"));
    }

    @Test
    void twoStartsAtOnceAreOneInAnEnvironmentAndTwoInTwo() throws Exception {
        both();
        promote("at-once", "live", save("at-once", "beds"), "x");
        service.holdTasks();
        try (ExecutorService hands = Executors.newFixedThreadPool(4)) {
            List<Callable<String>> starts = Stream.of("live", "trial", "live", "trial")
                    .<Callable<String>>map(place -> () -> in(place, () -> started(place)))
                    .toList();
            List<String> met = new ArrayList<>();
            for (Future<String> start : hands.invokeAll(starts)) {
                met.add(start.get());
            }
            assertThat(met).containsExactlyInAnyOrder("live", "trial", "blocked", "blocked");
        }
        service.releaseTasks();
        for (var line : service.bean(RunViews.class).list("at-once", null, 2).items()) {
            assertThat(service.settled(line.id()).state()).isEqualTo("finished");
        }
    }

    private static String started(String place) {
        try {
            service.bean(Runs.class).start(new StartRun("at-once", null, null, Map.of(), null), "Wenna");
            return place;
        } catch (CannotGoOn e) {
            return "blocked";
        }
    }

    @Test
    void aSecretOfAnEnvironmentIsAReference() {
        assertThatThrownBy(() -> service.bean(Connections.class).save("shop.yaml", """
                nachlauf: 1
                connection: shop
                type: postgresql
                settings: { database: shop, user: shop, password: "x${shop-password}" }
                """, "test"))
                .hasMessageContaining("A secret never stands in a connection.");
        environment("trial", false, "place: trial, shop-password: plain");
        service.bean(Connections.class).save("shop.yaml", """
                nachlauf: 1
                connection: shop
                type: postgresql
                settings: { database: shop, user: shop, password: "${shop-password}" }
                """, "test");
        assertThatThrownBy(() -> service.bean(Connections.class).opened("shop"))
                .hasMessageContaining("The environment trial holds a plain password");
    }
}
