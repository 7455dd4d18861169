package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.service.ServiceUnderTest;
import java.net.http.HttpClient;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Followers of runs over the network. */
class RunEventsTest {
    @Test
    void whoFollowsWhatCanNoLongerBeShownLearnsThatNothingMoreWillCome() throws Exception {
        // the service is closed first: a client that is closed waits for what it has asked
        try (HttpClient http = HttpClient.newHttpClient();
                ServiceUnderTest service = new ServiceUnderTest()) {
            service.holdTasks();
            service.keepRun(1, "running");
            HttpResponse<Stream<String>> events = http.send(
                    service.request("/runs/1/events")
                            .header("Accept", "text/event-stream")
                            .build(),
                    BodyHandlers.ofLines());
            CompletableFuture<Void> first = new CompletableFuture<>();
            CompletableFuture<Void> end =
                    CompletableFuture.runAsync(() -> events.body().forEach(line -> first.complete(null)));
            first.get(1, TimeUnit.MINUTES);
            assertThat(end).isNotDone();
            service.execute("DELETE FROM run WHERE id = 1");
            assertThat(end.handle((done, broken) -> "over").get(1, TimeUnit.MINUTES))
                    .isEqualTo("over");
        }
    }
}
