package dev.nachlauf.service.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.ServiceUnderTest;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.RequestMappingInfo;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Who may call what, seen from outside. */
class AccessTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static ServiceUnderTest service;
    private static Tokens tokens;
    private static HttpClient http;

    @BeforeAll
    static void start() {
        service = ServiceUnderTest.own();
        tokens = service.bean(Tokens.class);
        http = HttpClient.newHttpClient();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static HttpResponse<String> send(HttpRequest.Builder request) {
        try {
            return http.send(request.build(), BodyHandlers.ofString());
        } catch (IOException | InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    private static HttpRequest.Builder call(String method, String path) {
        return HttpRequest.newBuilder(URI.create(service.address() + path))
                .method(method, method.equals("GET") ? BodyPublishers.noBody() : BodyPublishers.ofString("{}"))
                .header("Content-Type", "application/json");
    }

    private static HttpResponse<String> by(String secret, String method, String path) {
        return send(call(method, path).header("Authorization", "Bearer " + secret));
    }

    private static String code(HttpResponse<String> answer) {
        return JSON.readTree(answer.body()).path("code").asString("");
    }

    /** A call of the interface: its method, its path with something in each place, and the role it needs. */
    private record Call(String method, String path, String type, Role role) {
        HttpResponse<String> by(String secret) {
            return send(call(method, path).setHeader("Content-Type", type).header("Authorization", "Bearer " + secret));
        }
    }

    private static Map<RequestMappingInfo, HandlerMethod> mappings() {
        return service.bean("requestMappingHandlerMapping", RequestMappingHandlerMapping.class)
                .getHandlerMethods();
    }

    /** All calls there are but those that need no token. */
    private static List<Call> calls() {
        List<Call> calls = new ArrayList<>();
        mappings().forEach((mapping, handler) -> {
            Needs needs = handler.getMethodAnnotation(Needs.class);
            String type = mapping.getConsumesCondition().getConsumableMediaTypes().stream()
                    .map(String::valueOf)
                    .findFirst()
                    .orElse("application/json");
            for (String pattern : mapping.getPatternValues()) {
                if (pattern.startsWith("/api/v1/")
                        && !pattern.contains("openapi")
                        && !pattern.endsWith("/jobs/schema")) {
                    String path = pattern.substring("/api/v1".length())
                            .replace("{id}", "1")
                            .replaceAll("\\{\\w+}", "x");
                    mapping.getMethodsCondition().getMethods().stream()
                            .filter(method ->
                                    !(path.equals("/session") && method.name().equals("POST")))
                            .forEach(method -> calls.add(
                                    new Call(method.name(), path, type, needs == null ? Role.LOOK : needs.value())));
                }
            }
        });
        return calls;
    }

    @Test
    void everyCallNeedsAToken() {
        assertThat(calls()).hasSizeGreaterThan(40).allSatisfy(call -> {
            HttpResponse<String> answer = send(call(call.method, call.path));
            assertThat(answer.statusCode()).isEqualTo(401);
            assertThat(code(answer)).isEqualTo("not-signed-in");
            assertThat(answer.headers().firstValue("WWW-Authenticate")).hasValue("Bearer");
            assertThat(call.by("nlt_guessed").statusCode()).isEqualTo(401);
        });
    }

    @Test
    void aRoleMayDoWhatItsWordSaysAndNoMore() {
        for (Role role : Role.values()) {
            String secret = tokens.make("may-" + role.word(), role.word(), false, "test")
                    .secret();
            assertThat(calls()).allSatisfy(call -> {
                if (call.role.compareTo(role) > 0) {
                    HttpResponse<String> answer = call.by(secret);
                    assertThat(answer.statusCode()).isEqualTo(403);
                    assertThat(code(answer)).isEqualTo("role-lacking");
                    assertThat(answer.body()).contains("needs the role " + call.role.word());
                }
            });
            assertThat(by(secret, "GET", "/runs").statusCode()).isEqualTo(200);
        }
    }

    @Test
    void whoMayGetMayAlsoAskForTheHeadAlone() {
        assertThat(by(service.token(), "HEAD", "/runs").statusCode()).isEqualTo(200);
    }

    @Test
    void everyCallThatChangesSomethingSaysWhatToNote() {
        mappings().forEach((info, method) -> {
            Needs needs = method.getMethodAnnotation(Needs.class);
            if (needs != null
                    && needs.value() != Role.LOOK
                    && !method.toString().contains("FileController")) {
                assertThat(needs.deed().isEmpty())
                        .as(method.toString())
                        .isEqualTo(info.getMethodsCondition().getMethods().equals(Set.of(RequestMethod.GET)));
            }
        });
    }

    @Test
    void theFirstTokenIsForItsOwnerAloneAndOnlyHashesAreKept() throws IOException {
        assertThat(PosixFilePermissions.toString(
                        Files.getPosixFilePermissions(service.home().resolve("token"))))
                .isEqualTo("rw-------");
        assertThat(service.token()).startsWith("nlt_").hasSize(4 + 43);
        String kept = service.query("SELECT string_agg(t::text, ' ') FROM access_token t");
        assertThat(kept)
                .contains("local", Secret.hash(service.token()))
                .doesNotContain(service.token().substring(4));
    }

    @Test
    void aRetiredTokenAndItsSessionsOpenNothing() {
        String secret = tokens.make("press", "look", false, "test").secret();
        String cookie = session("{\"token\":\"" + secret + "\"}");
        assertThat(send(call("GET", "/runs").header("Cookie", cookie)).statusCode())
                .isEqualTo(200);
        assertThat(send(service.request("/tokens/press/retire").POST(BodyPublishers.noBody()))
                        .statusCode())
                .isEqualTo(200);
        assertThat(by(secret, "GET", "/runs").statusCode()).isEqualTo(401);
        assertThat(send(call("GET", "/runs").header("Cookie", cookie)).statusCode())
                .isEqualTo(401);
        assertThatThrownBy(() -> tokens.make("press", "look", false, "test"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.NAME_TAKEN));
    }

    private static String session(String body) {
        HttpResponse<String> opened = send(HttpRequest.newBuilder(URI.create(service.address() + "/session"))
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofString(body)));
        assertThat(opened.statusCode()).as(opened.body()).isEqualTo(200);
        String cookie = opened.headers().firstValue("Set-Cookie").orElseThrow();
        assertThat(cookie).contains("HttpOnly", "SameSite=Strict", "Path=/", "Max-Age=43200");
        return cookie.substring(0, cookie.indexOf(';'));
    }

    @Test
    void aLinkOpensOneSessionWhoeverComesFirst() throws Exception {
        String link = JSON.readTree(send(service.request("/session/links").POST(BodyPublishers.noBody()))
                        .body())
                .get("path")
                .asString();
        assertThat(link).startsWith("/enter#");
        String body = "{\"code\":\"" + link.substring("/enter#".length()) + "\"}";
        List<Integer> answers = atOnce(
                8,
                () -> send(call("POST", "/session").method("POST", BodyPublishers.ofString(body)))
                        .statusCode());
        assertThat(answers).containsOnlyOnce(200);
        assertThat(answers.stream().filter(status -> status == 401)).hasSize(7);
    }

    @Test
    void aSessionThatIsClosedIsOver() {
        String cookie = session("{\"token\":\"" + service.token() + "\"}");
        HttpResponse<String> me = send(call("GET", "/session").header("Cookie", cookie));
        assertThat(JSON.readTree(me.body()))
                .isEqualTo(JSON.readTree("{\"name\":\"local\",\"role\":\"administer\",\"seesSensitive\":false}"));
        assertThat(send(call("DELETE", "/session").header("Cookie", cookie)).statusCode())
                .isEqualTo(200);
        assertThat(send(call("GET", "/session").header("Cookie", cookie)).statusCode())
                .isEqualTo(401);
    }

    @Test
    void ofTwoWhoRetireTheLastTwoAdministratorsOneIsRefused() throws Exception {
        try (ServiceUnderTest other = ServiceUnderTest.own()) {
            Tokens mine = other.bean(Tokens.class);
            mine.make("second", "administer", false, "test");
            List<String> names = new ArrayList<>(List.of("local", "second"));
            List<Boolean> retired = atOnce(2, () -> {
                String name;
                synchronized (names) {
                    name = names.removeFirst();
                }
                try {
                    mine.retire(name);
                    return true;
                } catch (CannotGoOn e) {
                    assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.TOKEN_LAST);
                    return false;
                }
            });
            assertThat(retired).containsExactlyInAnyOrder(true, false);
        }
    }

    private static <T> List<T> atOnce(int hands, Callable<T> work) throws Exception {
        try (ExecutorService all = Executors.newFixedThreadPool(hands)) {
            List<Future<T>> results = new ArrayList<>();
            for (int hand = 0; hand < hands; hand++) {
                results.add(all.submit(work));
            }
            List<T> answers = new ArrayList<>();
            for (Future<T> result : results) {
                answers.add(result.get());
            }
            return answers;
        }
    }

    @Test
    void theTokenOfTheStateFolderIsMadeAnewWhereItsFileIsGoneButNotWhenItWasRetired() throws IOException {
        ServiceUnderTest first = ServiceUnderTest.own();
        String before = first.token();
        first.close();
        Files.delete(first.home().resolve("token"));
        try (var again = ServiceUnderTest.start(first.database(), first.home())) {
            assertThat(first.token()).isNotEqualTo(before);
            Tokens all = again.getBean(Tokens.class);
            assertThat(all.callerOf(before)).isEmpty();
            assertThat(all.callerOf(first.token())).isPresent();
            all.make("other", "administer", false, "test");
            all.retire("local");
        }
        Files.delete(first.home().resolve("token"));
        ServiceUnderTest.start(first.database(), first.home()).close();
        assertThat(first.home().resolve("token")).doesNotExist();
    }

    @Test
    void whoDidWhatIsNotedAlsoWhatWasRefused() {
        service.holdTasks();
        service.keepRun(77, "waiting");
        String runner = tokens.make("night-shift", "run", false, "test").secret();
        assertThat(by(runner, "POST", "/runs/77/stop").statusCode()).isEqualTo(200);
        assertThat(by(runner, "POST", "/tokens").statusCode()).isEqualTo(403);
        List<String> noted = new ArrayList<>();
        for (JsonNode item :
                JSON.readTree(send(service.request("/activity")).body()).get("items")) {
            noted.add(item.get("who").asString() + ": " + item.get("deed").asString() + " "
                    + item.get("about").asString() + " " + item.get("status").asInt());
        }
        assertThat(noted).contains("night-shift: stop run 77 200", "night-shift: make token  403");
    }

    @Test
    void thePageLoadsNothingFromElsewhereAndIsShownNowhereElse() {
        HttpResponse<String> page =
                send(HttpRequest.newBuilder(URI.create(service.address().replace("/api/v1", "/runs/7"))));
        assertThat(page.statusCode()).isEqualTo(200);
        String policy = page.headers().firstValue("Content-Security-Policy").orElseThrow();
        assertThat(policy).contains("default-src 'none'", "script-src 'self';", "frame-ancestors 'none'");
        assertThat(policy).doesNotContain("unsafe");
        String nonce = policy.replaceFirst(".*'nonce-([^']+)'.*", "$1");
        assertThat(nonce).hasSize(24);
        assertThat(page.headers().firstValue("X-Content-Type-Options")).hasValue("nosniff");
        assertThat(page.headers().firstValue("X-Frame-Options")).hasValue("DENY");
        assertThat(page.headers().firstValue("Referrer-Policy")).hasValue("no-referrer");
        HttpResponse<String> answer = send(service.request("/runs"));
        assertThat(answer.headers().firstValue("X-Content-Type-Options")).hasValue("nosniff");
        assertThat(answer.headers().firstValue("Cache-Control").orElse("")).contains("no-store");
    }

    @Test
    void pagesOfOtherSitesAreRefusedWhateverTheyCarry() {
        assertThat(code(send(service.request("/runs").header("Origin", "http://evil.example"))))
                .isEqualTo("request-foreign");
        assertThat(code(send(service.request("/runs").header("Origin", "null"))))
                .isEqualTo("request-foreign");
        assertThat(code(send(service.request("/runs").header("Sec-Fetch-Site", "cross-site"))))
                .isEqualTo("request-foreign");
        assertThat(code(send(service.request("/runs")
                        .header("Sec-Fetch-Site", "cross-site")
                        .header("Sec-Fetch-Mode", "navigate"))))
                .isEqualTo("request-foreign");
        assertThat(send(HttpRequest.newBuilder(URI.create(service.address().replace("/api/v1", "/runs")))
                                .header("Sec-Fetch-Site", "cross-site")
                                .header("Sec-Fetch-Mode", "navigate"))
                        .statusCode())
                .as("a link in a mail may lead to the console")
                .isEqualTo(200);
        assertThat(send(service.request("/runs").header("Sec-Fetch-Site", "same-origin"))
                        .statusCode())
                .isEqualTo(200);
    }
}
