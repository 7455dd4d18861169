package dev.nachlauf.cli;

import dev.nachlauf.api.LookView;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.Optional;
import java.util.function.Function;

/** Stays with a look that takes longer than one answer does: progress on a terminal, and a stop where the command ends. */
final class Awaiting {
    private static final int ACCEPTED = 202;
    private static final String A_MOMENT = "wait=1";

    private final HttpClient http;
    private final Function<String, HttpRequest.Builder> requests;
    private final TerminalLine progress;

    /** @param requests a request for an address of the service */
    Awaiting(HttpClient http, Function<String, HttpRequest.Builder> requests, TerminalLine progress) {
        this.http = http;
        this.requests = requests;
        this.progress = progress;
    }

    /** Where the result of a look will be; empty where the answer is the result. */
    static Optional<String> of(HttpResponse<?> answer) {
        return answer.statusCode() == ACCEPTED ? answer.headers().firstValue("Location") : Optional.empty();
    }

    /** The answer that the call would have had. */
    HttpResponse<String> result(String address) throws IOException, InterruptedException {
        Thread stop = new Thread(() -> stop(address));
        Runtime.getRuntime().addShutdownHook(stop);
        try {
            HttpRequest request =
                    requests.apply(address).header("Prefer", A_MOMENT).GET().build();
            HttpResponse<String> answer = http.send(request, BodyHandlers.ofString());
            while (answer.statusCode() == ACCEPTED) {
                progress.show(line(ServiceClient.JSON.readValue(answer.body(), LookView.class)));
                answer = http.send(request, BodyHandlers.ofString());
            }
            progress.clear();
            return answer;
        } finally {
            Runtime.getRuntime().removeShutdownHook(stop);
        }
    }

    private static String line(LookView look) {
        return look.what() + " " + look.state()
                + (look.rows() == 0 ? "" : " " + Output.number(look.rows()) + " rows read");
    }

    /** Nobody waits for it any more. */
    private void stop(String address) {
        try {
            http.send(
                    requests.apply(address.replaceAll("/result$", "/stop"))
                            .POST(BodyPublishers.noBody())
                            .build(),
                    BodyHandlers.discarding());
        } catch (IOException e) {
            // it ends at its deadline
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
