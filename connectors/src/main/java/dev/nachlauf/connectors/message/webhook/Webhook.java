package dev.nachlauf.connectors.message.webhook;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TellsPeople;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpClient.Redirect;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Calls one web address. A redirect is not followed: the call was signed for this address. */
final class Webhook implements TellsPeople {
    private static final Duration CONNECT = Duration.ofSeconds(10);
    private static final int USUAL_PATIENCE = 30;
    private static final int LONGEST_PATIENCE = 300;

    private final URI address;
    private final Duration patience;
    private final Settings settings;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(CONNECT)
            .followRedirects(Redirect.NEVER)
            .build();

    Webhook(Settings settings) {
        this.settings = settings;
        this.address = address(settings);
        this.patience = Duration.ofSeconds(settings.integer(WebhookType.PATIENCE, USUAL_PATIENCE, 1, LONGEST_PATIENCE));
    }

    /** The address that is called. */
    static URI address(Settings settings) {
        String text = settings.required(WebhookType.ADDRESS);
        try {
            URI address = URI.create(text);
            if (address.getHost() != null && List.of("http", "https").contains(address.getScheme())) {
                return address;
            }
        } catch (IllegalArgumentException e) {
            // said below
        }
        throw new CannotGoOn(Problem.at(
                new Place.InSetting(WebhookType.ADDRESS),
                ProblemCode.SETTING_MALFORMED,
                text + " is not a web address.",
                "Write it like https://host/runs."));
    }

    @Override
    public Optional<String> unfit(List<String> receivers) {
        return receivers.isEmpty()
                ? Optional.empty()
                : Optional.of("A webhook has one address, that of its connection, and no receivers beside it.");
    }

    /** Whatever it answers to a question without a call: it is there. */
    @Override
    public Greeting greet() {
        int status = send(request().method("HEAD", BodyPublishers.noBody()).build());
        return new Greeting("webhook " + address.getHost() + " (answers " + status + ")", "", false, null);
    }

    @Override
    public String tell(Message message) {
        byte[] body = message.facts().getBytes(StandardCharsets.UTF_8);
        HttpRequest.Builder call = request().POST(BodyPublishers.ofByteArray(body));
        String secret = settings.secret(WebhookType.SECRET).orElse("");
        SignedCall.headers(address, body, message.id(), Instant.now(), secret).forEach(call::header);
        int status = send(call.build());
        if (status / 100 == 2) {
            return address.getHost() + " answers " + status + ".";
        }
        boolean passes = status >= 500 || status == 408 || status == 429;
        throw new CannotGoOn(Problem.of(
                passes ? ProblemCode.UNREACHABLE : ProblemCode.MESSAGE_REFUSED,
                address.getHost() + " doesn't take the call: it answers " + status + ".",
                "Check the connection's address and secret."));
    }

    private HttpRequest.Builder request() {
        return HttpRequest.newBuilder(address).timeout(patience);
    }

    /** The answer's body is nobody's business. */
    private int send(HttpRequest request) {
        try {
            HttpResponse<InputStream> response = client.send(request, BodyHandlers.ofInputStream());
            response.body().close();
            return response.statusCode();
        } catch (IOException e) {
            throw unreachable(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw unreachable(e);
        }
    }

    private CannotGoOn unreachable(Exception e) {
        return new CannotGoOn(
                Problem.at(
                        new Place.InSetting(WebhookType.ADDRESS),
                        ProblemCode.UNREACHABLE,
                        address.getHost() + " can't be reached, or doesn't answer within " + patience.toSeconds()
                                + " s.",
                        "Check the address, and whether the program is up."),
                e);
    }

    @Override
    public void close() {
        client.shutdownNow();
    }
}
