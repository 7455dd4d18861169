package dev.nachlauf.connectors.message.webhook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.Headers;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TellsPeople;
import dev.nachlauf.core.system.TellsPeople.Message;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A real web server on loopback. */
@Execution(ExecutionMode.SAME_THREAD) // its tests share a host
class WebhookTest {
    private static final String SECRET = "known-to-both";
    private static final BlockingQueue<Call> CALLS = new LinkedBlockingQueue<>();
    private static HttpServer server;

    private record Call(String method, Headers headers, byte[] body) {}

    @BeforeAll
    static void start() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/answers/", WebhookTest::answer);
        server.start();
    }

    private static void answer(HttpExchange exchange) throws IOException {
        try (exchange) {
            byte[] body = exchange.getRequestBody().readAllBytes();
            Headers headers = new Headers();
            headers.putAll(exchange.getRequestHeaders());
            CALLS.add(new Call(exchange.getRequestMethod(), headers, body));
            int status = Integer.parseInt(exchange.getRequestURI().getPath().substring("/answers/".length()));
            exchange.getResponseHeaders().add("Location", "/answers/200");
            exchange.sendResponseHeaders(status, -1);
        }
    }

    @AfterAll
    static void stop() {
        server.stop(0);
    }

    private static String address(int status) {
        return "http://127.0.0.1:" + server.getAddress().getPort() + "/answers/" + status;
    }

    private static TellsPeople webhook(String address) {
        return new Webhook(
                new Settings(Map.of("address", address, "secret", "env:HOOK", "patience", "1"), reference -> SECRET));
    }

    private static Message message() {
        return new Message("n-1", Instant.EPOCH, "title", "text", "{\"run\":12,\"job\":\"hütten\"}", List.of());
    }

    @Test
    void isCalledWithTheFactsAndASignature() throws Exception {
        CALLS.clear();
        assertThat(webhook(address(204)).tell(message())).isEqualTo("127.0.0.1 answers 204.");
        Call call = CALLS.remove();
        assertThat(call.method()).isEqualTo("POST");
        assertThat(new String(call.body(), StandardCharsets.UTF_8))
                .isEqualTo(message().facts());
        Headers headers = call.headers();
        assertThat(headers.getFirst("Content-Type")).isEqualTo("application/json");
        assertThat(headers.getFirst("Idempotency-Key")).isEqualTo("\"n-1\"");
        String digest = Base64.getEncoder()
                .encodeToString(MessageDigest.getInstance("SHA-256").digest(call.body()));
        assertThat(headers.getFirst("Content-Digest")).isEqualTo("sha-256=:" + digest + ":");
        assertThat(isSigned(headers, SECRET)).isTrue();
        assertThat(isSigned(headers, "a guess")).isFalse();
        headers.set("Content-Digest", "sha-256=:AAAA:");
        assertThat(isSigned(headers, SECRET)).isFalse();
    }

    /** What a receiver does: it puts the signed parts together in the order that the call states. */
    private static boolean isSigned(Headers headers, String secret) throws Exception {
        String input = headers.getFirst("Signature-Input").substring("nachlauf=".length());
        StringBuilder base = new StringBuilder();
        Matcher names = Pattern.compile("\"([^\"]+)\"").matcher(input.substring(0, input.indexOf(')')));
        while (names.find()) {
            String value = switch (names.group(1)) {
                case "@method" -> "POST";
                case "@target-uri" -> address(204);
                default -> headers.getFirst(names.group(1));
            };
            base.append('"').append(names.group(1)).append("\": ").append(value).append('\n');
        }
        base.append("\"@signature-params\": ").append(input);
        Mac mac = Mac.getInstance("HmacSHA256");
        mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
        String signature =
                Base64.getEncoder().encodeToString(mac.doFinal(base.toString().getBytes(StandardCharsets.UTF_8)));
        return headers.getFirst("Signature").equals("nachlauf=:" + signature + ":");
    }

    /** Worked out beside this code, by another program. */
    @Test
    void signsAsTheStandardSays() {
        Map<String, String> headers = SignedCall.headers(
                URI.create("https://office.union.example/runs"),
                "{\"run\":12}".getBytes(StandardCharsets.UTF_8),
                "n-1",
                Instant.ofEpochSecond(1_780_000_000),
                SECRET);
        assertThat(headers)
                .containsEntry("Content-Digest", "sha-256=:lir8khrYhCJskSWxasi6Quw6e+B3qcUbhFDdaF9q1jg=:")
                .containsEntry(
                        "Signature-Input",
                        "nachlauf=(\"@method\" \"@target-uri\" \"content-type\" \"content-digest\" \"idempotency-key\")"
                                + ";created=1780000000;alg=\"hmac-sha256\"")
                .containsEntry("Signature", "nachlauf=:xJGFviXcFpiWDFtGsfi/i2oRD3nI1HAGlT3akCtazkA=:");
    }

    @ParameterizedTest
    @ValueSource(ints = {408, 429, 500, 503})
    void isTriedAgainWhereTheOtherSideHasTrouble(int status) {
        assertThatThrownBy(() -> webhook(address(status)).tell(message()))
                .isInstanceOfSatisfying(
                        CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue())
                .hasMessageContaining("it answers " + status);
    }

    /** A call was signed for its own address, so it goes to no other. */
    @ParameterizedTest
    @ValueSource(ints = {302, 307, 400, 401, 404})
    void isRefusedForGood(int status) {
        CALLS.clear();
        assertThatThrownBy(() -> webhook(address(status)).tell(message()))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.MESSAGE_REFUSED));
        assertThat(CALLS).hasSize(1);
    }

    @Test
    void isGivenUpWhereItNeverAnswers() throws IOException {
        try (ServerSocket silent = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            TellsPeople webhook = webhook("http://127.0.0.1:" + silent.getLocalPort() + "/");
            assertThatThrownBy(() -> webhook.tell(message()))
                    .isInstanceOfSatisfying(
                            CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue())
                    .hasMessageContaining("doesn't answer within 1 s.");
        }
    }

    @Test
    void isThereWhateverItAnswersToAQuestion() {
        CALLS.clear();
        assertThat(webhook(address(405)).greet().system()).isEqualTo("webhook 127.0.0.1 (answers 405)");
        assertThat(CALLS.remove().method()).isEqualTo("HEAD");
    }

    @Test
    void knowsNoReceiversBesideItself() {
        assertThat(webhook(address(204)).unfit(List.of())).isEmpty();
        assertThat(webhook(address(204)).unfit(List.of("office@union.example"))).isPresent();
        assertThatThrownBy(() -> webhook("office.union.example"))
                .hasMessageContaining("office.union.example is not a web address.");
    }
}
