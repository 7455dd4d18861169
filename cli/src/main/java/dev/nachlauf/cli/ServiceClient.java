package dev.nachlauf.cli;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.nachlauf.api.FileView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProblemView;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublisher;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JavaType;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Calls the service. */
final class ServiceClient {
    static final JsonMapper JSON = JsonMapper.builder()
            .disable(tools.jackson.databind.DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .changeDefaultPropertyInclusion(all -> all.withValueInclusion(JsonInclude.Include.NON_NULL))
            .build();
    private static final String YAML = "application/yaml";
    private static final String USUAL = "http://127.0.0.1:8640";
    private static final Duration CONNECT = Duration.ofSeconds(5);

    private final Surroundings around;
    private final String server;
    private final Optional<String> environment;
    private final Optional<String> token;
    private final HttpClient http = HttpClient.newBuilder()
            .connectTimeout(CONNECT)
            .version(HttpClient.Version.HTTP_1_1)
            .build();

    private ServiceClient(Surroundings around, String server, Optional<String> environment, Optional<String> token) {
        this.environment = environment;
        this.around = around;
        this.server = server;
        this.token = token;
    }

    /** The service said no, and why. */
    static final class Refused extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final transient List<ProblemView> problems;

        Refused(String message, List<ProblemView> problems) {
            super(message);
            this.problems = problems;
        }

        List<ProblemView> problems() {
            return problems;
        }
    }

    /** The service does not answer. */
    static final class Unreachable extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Unreachable(String server, Throwable cause) {
            super(
                    "The service at " + server
                            + " can't be reached. Start it with ./serve, or name another with --server.",
                    cause);
        }
    }

    /**
     * By option, else NACHLAUF_SERVER, else what ./serve or ./demo left in the state folder; with the token of
     * NACHLAUF_TOKEN, else, for the service that the state folder belongs to, the one in it.
     *
     * @param environment the one that all calls are about; empty where none was named
     */
    static ServiceClient at(Optional<String> stated, Optional<String> environment, Surroundings around) {
        Optional<String> left = left("address", around);
        String server = stated.or(() -> around.variable("NACHLAUF_SERVER"))
                .or(() -> left)
                .orElse(USUAL)
                .replaceAll("/+$", "");
        // the token in the state folder is for the service that left it, and for nothing else that listens here
        boolean own = server.equals(left.orElse(USUAL));
        Optional<String> token =
                around.variable("NACHLAUF_TOKEN").or(() -> own ? left("token", around) : Optional.empty());
        return new ServiceClient(around, server, environment, token.filter(text -> !text.isBlank()));
    }

    private static Optional<String> left(String file, Surroundings around) {
        String home = around.variable("NACHLAUF_HOME").orElse(".nachlauf");
        try {
            return Optional.of(Files.readString(Path.of(home, file)).strip());
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    /** The service's address. */
    String server() {
        return server;
    }

    <T> T get(String path, Class<T> type) {
        return send(request(path).GET(), type);
    }

    <T> T post(String path, Object body, Class<T> type) {
        BodyPublisher json = BodyPublishers.ofString(JSON.writeValueAsString(body));
        return send(request(path).header("Content-Type", "application/json").POST(json), type);
    }

    <T> T post(String path, Class<T> type) {
        return send(request(path).POST(BodyPublishers.noBody()), type);
    }

    /** Sends a document as it stands in a file. */
    <T> T postDocument(String path, Path file, Class<T> type) {
        BodyPublisher document = BodyPublishers.ofString(around.read(file));
        return send(request(path).header("Content-Type", YAML).POST(document), type);
    }

    /** Sends a file to be read by a run or a look; {@code -} is standard input. */
    FileView upload(Path file) {
        String name = file.equals(Surroundings.STANDARD_INPUT) ? "standard-input" : String.valueOf(file.getFileName());
        return upload("/files?name=" + encode(name), file, FileView.class);
    }

    /** Streams a file. */
    <T> T upload(String path, Path file, Class<T> type) {
        try {
            if (!file.equals(Surroundings.STANDARD_INPUT) && !Files.isRegularFile(file)) {
                throw new NoSuchFileException(file.toString());
            }
            BodyPublisher bytes = file.equals(Surroundings.STANDARD_INPUT)
                    ? BodyPublishers.ofInputStream(around::input)
                    : BodyPublishers.ofFile(file);
            return send(
                    request(path)
                            .header("Content-Type", "application/octet-stream")
                            .POST(bytes),
                    type);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Receives a file, whole or not at all; one that is there already is replaced. */
    void download(String path, Path file) {
        try {
            Path whole = file.toAbsolutePath();
            Path part = Files.createTempFile(Objects.requireNonNull(whole.getParent()), ".nachlauf", null);
            try {
                HttpResponse<Path> response =
                        reached(() -> http.send(request(path).GET().build(), BodyHandlers.ofFile(part)));
                if (response.statusCode() >= 400) {
                    throw refused(response.statusCode(), Files.readString(part));
                }
                Files.move(part, whole, StandardCopyOption.REPLACE_EXISTING);
            } finally {
                Files.deleteIfExists(part);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** All entries of a list, page by page, at most so many. */
    <T> List<T> list(String path, Class<T> type, int most) {
        List<T> items = new ArrayList<>();
        JavaType page = JSON.getTypeFactory().constructParametricType(Page.class, type);
        String next = null;
        do {
            String separator = path.contains("?") ? "&" : "?";
            int limit = Math.min(1000, most - items.size());
            String address = path + separator + "limit=" + limit + (next == null ? "" : "&cursor=" + next);
            Page<T> found = send(request(address).GET(), body -> JSON.readValue(body, page));
            items.addAll(found.items());
            next = found.next();
        } while (next != null && items.size() < most);
        return items;
    }

    /** The one page that an answer to a question is. */
    <T> List<T> postForList(String path, Object body, Class<T> type) {
        JavaType page = JSON.getTypeFactory().constructParametricType(Page.class, type);
        BodyPublisher json = BodyPublishers.ofString(JSON.writeValueAsString(body));
        Page<T> found = send(
                request(path).header("Content-Type", "application/json").POST(json),
                answer -> JSON.readValue(answer, page));
        return found.items();
    }

    /** An event stream: its lines, until {@code more} says that it is enough. */
    void follow(String path, Function<ServerEvent, Boolean> more) {
        reached(() -> {
            HttpResponse<InputStream> response = http.send(
                    request(path).header("Accept", "text/event-stream").GET().build(), BodyHandlers.ofInputStream());
            try (InputStream body = response.body()) {
                if (response.statusCode() >= 400) {
                    throw refused(response.statusCode(), new String(body.readAllBytes(), StandardCharsets.UTF_8));
                }
                ServerEvent.read(body, more);
            }
            return response;
        });
    }

    private HttpRequest.Builder request(String path) {
        String where = environment
                .map(name -> (path.contains("?") ? "&" : "?") + "environment=" + encode(name))
                .orElse("");
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(server + "/api/v1" + path + where));
        token.ifPresent(secret -> request.header("Authorization", "Bearer " + secret));
        return request;
    }

    private <T> T send(HttpRequest.Builder request, Class<T> type) {
        return send(request, body -> JSON.readValue(body, type));
    }

    private <T> T send(HttpRequest.Builder request, Function<String, T> reader) {
        HttpResponse<String> response = reached(() -> {
            HttpResponse<String> answer = http.send(request.build(), BodyHandlers.ofString());
            Optional<String> underWay = Awaiting.of(answer);
            return underWay.isEmpty()
                    ? answer
                    : new Awaiting(http, path -> request("").uri(URI.create(server + path)), around.terminalLine())
                            .result(underWay.get());
        });
        if (response.statusCode() >= 400) {
            throw refused(response.statusCode(), response.body());
        }
        return reader.apply(response.body());
    }

    /** What goes over the network. */
    private interface Exchange<T> {
        T take() throws IOException, InterruptedException;
    }

    private <T> T reached(Exchange<T> exchange) {
        try {
            return exchange.take();
        } catch (IOException e) {
            throw new Unreachable(server, e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new Unreachable(server, e);
        }
    }

    private static Refused refused(int status, String body) {
        try {
            JsonNode details = JSON.readTree(body);
            List<ProblemView> problems = new ArrayList<>();
            for (JsonNode problem : details.path("problems")) {
                problems.add(JSON.treeToValue(problem, ProblemView.class));
            }
            return new Refused(
                    details.path("detail").asString("The service answered with status " + status + "."), problems);
        } catch (JacksonException e) {
            return new Refused("The service answered with status " + status + ".", List.of());
        }
    }

    static String encode(@Nullable Object part) {
        return URLEncoder.encode(String.valueOf(part), StandardCharsets.UTF_8).replace("+", "%20");
    }
}
