package dev.nachlauf.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.crosswalk.CrosswalkFile.Addition;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.shared.Crosswalks;
import java.io.ByteArrayInputStream;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Documents and files that two hands change at the same moment: both are kept, and nobody is told of a defect. */
class TwoHandsTest {
    private static final int HANDS = 6;
    private static final int ROUNDS = 15;
    private static ServiceUnderTest service;
    private static ExecutorService hands;

    @BeforeAll
    static void start() {
        service = new ServiceUnderTest();
        hands = Executors.newFixedThreadPool(HANDS);
    }

    @AfterAll
    static void stop() {
        hands.shutdownNow();
        service.close();
    }

    private interface ByNumber<T> {
        T of(int hand) throws Exception;
    }

    /** What all hands get for doing the same at once. */
    private static <T> List<T> atOnce(ByNumber<T> work) throws Exception {
        CyclicBarrier start = new CyclicBarrier(HANDS);
        List<Future<T>> results = new ArrayList<>();
        for (int hand = 0; hand < HANDS; hand++) {
            int number = hand;
            Callable<T> one = () -> {
                start.await();
                return work.of(number);
            };
            results.add(hands.submit(one));
        }
        List<T> all = new ArrayList<>();
        for (Future<T> result : results) {
            all.add(result.get());
        }
        return all;
    }

    @Test
    void entriesThatAreAddedAtOnceAreAllKept() throws Exception {
        Crosswalks crosswalks = service.bean(Crosswalks.class);
        crosswalks.save(
                "region.yaml", "nachlauf: 1\ncrosswalk: region\nentries:\n  - { from: Seeland, to: SEE }\n", "test");
        for (int round = 0; round < ROUNDS; round++) {
            int now = round;
            atOnce(hand ->
                    crosswalks.add("region", List.of(new Addition("", "R" + now + " " + hand, "X" + hand)), "test"));
        }
        String document = crosswalks.show("region").document();
        for (int round = 0; round < ROUNDS; round++) {
            for (int hand = 0; hand < HANDS; hand++) {
                assertThat(document).contains("R" + round + " " + hand);
            }
        }
        assertThat(crosswalks.show("region").version()).isEqualTo(1 + ROUNDS * HANDS);
    }

    @Test
    void versionsThatAreSavedAtOnceAreAllKept() throws Exception {
        Jobs jobs = service.bean(Jobs.class);
        Set<Integer> numbers = new HashSet<>();
        for (int round = 0; round < ROUNDS; round++) {
            int now = round;
            atOnce(hand -> jobs.save("draft.yaml", "job: huts\n# " + now + " " + hand + "\n", true, "test"))
                    .forEach(saved -> numbers.add(saved.version().version()));
        }
        assertThat(numbers).hasSize(ROUNDS * HANDS).contains(1, ROUNDS * HANDS);
    }

    private static String post(String path, String document) throws Exception {
        HttpRequest request = service.request(path)
                .header("Content-Type", "application/yaml")
                .POST(HttpRequest.BodyPublishers.ofString(document))
                .build();
        try (HttpClient http = HttpClient.newHttpClient()) {
            String body =
                    http.send(request, HttpResponse.BodyHandlers.ofString()).body();
            return body.contains("version-overtaken") ? "version-overtaken" : "saved";
        }
    }

    @Test
    void ofTextsThatWereBegunWithOneVersionOneIsSaved() throws Exception {
        Jobs jobs = service.bean(Jobs.class);
        for (int round = 0; round < ROUNDS; round++) {
            int base = jobs.save("d.yaml", "job: trails\n# round " + round + "\n", true, "test")
                    .version()
                    .version();
            int now = round;
            List<String> answers = atOnce(hand -> {
                String text = "job: trails\n# " + now + " of hand " + hand + "\n";
                return post("/jobs?draft=true&base=" + base, text);
            });
            assertThat(answers).containsOnlyOnce("saved");
            assertThat(answers).filteredOn("version-overtaken"::equals).hasSize(HANDS - 1);
        }
    }

    @Test
    void aNewConnectionIsSavedByAllAtOnce() throws Exception {
        Connections connections = service.bean(Connections.class);
        for (int round = 0; round < ROUNDS; round++) {
            String document =
                    "nachlauf: 1\nconnection: inbox-" + round + "\ntype: folder\nsettings: { path: /nowhere }\n";
            atOnce(hand -> connections.save("inbox.yaml", document, "test"));
        }
        assertThat(connections.list()).hasSize(ROUNDS);
    }

    @Test
    void theSameFileArrivesOnAllWaysAtOnce() throws Exception {
        FileStore files = service.bean(FileStore.class);
        for (int round = 0; round < ROUNDS; round++) {
            byte[] bytes = ("code;name\nH-1;" + round + "\n").getBytes(StandardCharsets.UTF_8);
            assertThat(atOnce(hand -> files.keep("huts.csv", new ByteArrayInputStream(bytes))
                            .hash()))
                    .hasSize(HANDS)
                    .containsOnly(files.keep("huts.csv", new ByteArrayInputStream(bytes))
                            .hash());
        }
    }

    @Test
    void aServiceWithAnotherHomeDoesNotStart() {
        assertThatThrownBy(() -> ServiceUnderTest.start(service.database(), ServiceUnderTest.newHome()))
                .rootCause()
                .hasMessageContaining("does not belong to the service's own database");
        ServiceUnderTest.start(service.database(), service.home()).close();
    }
}
