package dev.nachlauf.cli;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.nachlauf.api.FileView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProblemView;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.HttpURLConnection;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
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
    private static final String JSON_TYPE = "application/json";
    private static final String USUAL = "http://127.0.0.1:8640";

    private final Surroundings around;
    private final String server;
    private final Optional<String> environment;
    private final Optional<String> token;

    private ServiceClient(Surroundings around, String server, Optional<String> environment, Optional<String> token) {
        this.environment = environment;
        this.around = around;
        this.server = server;
        this.token = token;
    }

    /** The service said no, and why. */
    static class Refused extends RuntimeException {
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

    /** The service is there, but can't answer now, as when it can't reach its own database; it tries again with every call. */
    static final class Unavailable extends Refused {
        private static final long serialVersionUID = 1L;

        Unavailable(String message, List<ProblemView> problems) {
            super(message, problems);
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
        return read(() -> call(path).get(), type);
    }

    <T> T post(String path, Object body, Class<T> type) {
        return read(() -> call(path).post(Body.text(JSON_TYPE, JSON.writeValueAsString(body))), type);
    }

    <T> T post(String path, Class<T> type) {
        return read(() -> call(path).post(Body.NONE), type);
    }

    /** Sends a document as it stands in a file. */
    <T> T postDocument(String path, Path file, Class<T> type) {
        String document = around.read(file);
        return read(() -> call(path).post(Body.text(YAML, document)), type);
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
            Body bytes = file.equals(Surroundings.STANDARD_INPUT) ? Body.stream(around::input) : Body.file(file);
            return read(() -> call(path).post(bytes), type);
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
                int status = reached(() -> receive(path, part));
                if (status >= 400) {
                    throw refused(status, Files.readString(part));
                }
                Files.move(part, whole, StandardCopyOption.REPLACE_EXISTING);
            } finally {
                Files.deleteIfExists(part);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Receives a body into a file; the result is the answer's status. */
    private int receive(String path, Path file) throws IOException {
        Call call = call(path);
        try (InputStream body = call.body()) {
            if (body != null) {
                Files.copy(body, file, StandardCopyOption.REPLACE_EXISTING);
            }
        }
        return call.status();
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
            Page<T> found = send(() -> call(address).get(), body -> JSON.readValue(body, page));
            items.addAll(found.items());
            next = found.next();
        } while (next != null && items.size() < most);
        return items;
    }

    /** The one page that an answer to a question is. */
    <T> List<T> postForList(String path, Object body, Class<T> type) {
        JavaType page = JSON.getTypeFactory().constructParametricType(Page.class, type);
        Page<T> found = send(
                () -> call(path).post(Body.text(JSON_TYPE, JSON.writeValueAsString(body))),
                answer -> JSON.readValue(answer, page));
        return found.items();
    }

    /** An event stream: its lines, until {@code more} says that it is enough. */
    void follow(String path, Function<ServerEvent, Boolean> more) {
        reached(() -> {
            Call call = call(path).with("Accept", "text/event-stream");
            try (InputStream body = call.body()) {
                if (call.status() >= 400) {
                    throw refused(
                            call.status(), body == null ? "" : new String(body.readAllBytes(), StandardCharsets.UTF_8));
                }
                if (body != null) {
                    ServerEvent.read(body, more);
                }
            }
            return call;
        });
    }

    private Call call(String path) throws IOException {
        String where = environment
                .map(name -> (path.contains("?") ? "&" : "?") + "environment=" + encode(name))
                .orElse("");
        return new Call(server + "/api/v1" + path + where, token);
    }

    private <T> T read(Exchange<Call.Answer> exchange, Class<T> type) {
        return send(exchange, body -> JSON.readValue(body, type));
    }

    private <T> T send(Exchange<Call.Answer> exchange, Function<String, T> reader) {
        Call.Answer answer = reached(() -> {
            Call.Answer first = exchange.take();
            Optional<String> underWay = Awaiting.of(first);
            return underWay.isEmpty()
                    ? first
                    : new Awaiting(path -> new Call(server + path, token), around.terminalLine())
                            .result(underWay.get());
        });
        if (answer.status() >= 400) {
            throw refused(answer.status(), answer.body());
        }
        return reader.apply(answer.body());
    }

    /** What goes over the network. */
    private interface Exchange<T> {
        T take() throws IOException;
    }

    private <T> T reached(Exchange<T> exchange) {
        try {
            return exchange.take();
        } catch (IOException e) {
            throw new Unreachable(server, e);
        }
    }

    private static Refused refused(int status, String body) {
        if (status == HttpURLConnection.HTTP_UNAUTHORIZED && body.isEmpty()) {
            return new Refused(
                    "The call carries no token, or one that was retired. Name one in NACHLAUF_TOKEN.", List.of());
        }
        String message = "The service answered with status " + status + ".";
        List<ProblemView> problems = new ArrayList<>();
        try {
            JsonNode details = JSON.readTree(body);
            for (JsonNode problem : details.path("problems")) {
                problems.add(JSON.treeToValue(problem, ProblemView.class));
            }
            message = details.path("detail").asString(message);
        } catch (JacksonException e) {
            // nothing, or the page of a server in between: the status has to do
        }
        return status == HttpURLConnection.HTTP_UNAVAILABLE
                ? new Unavailable(message, problems)
                : new Refused(message, problems);
    }

    static String encode(@Nullable Object part) {
        return URLEncoder.encode(String.valueOf(part), StandardCharsets.UTF_8).replace("+", "%20");
    }
}
