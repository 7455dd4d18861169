package dev.nachlauf.connectors.place.http;

import dev.nachlauf.connectors.place.FilePattern;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TakesFiles;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpClient.Redirect;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Base64;
import java.util.List;
import java.util.Optional;

/** Files below one address of a web server. */
final class HttpPlace implements HoldsFiles.Conditional, TakesFiles {
    private static final Duration CONNECT = Duration.ofSeconds(10);
    private static final Duration PATIENCE = Duration.ofSeconds(60);
    /** A server that has sent less than the least bytes in this time, while it was waited for, is given up. */
    private static final Duration STALLED = Duration.ofMinutes(2);

    private static final long LEAST_BYTES = 1_000;

    private static final int MOST_REDIRECTS = 5;
    private static final int OK = 200;
    private static final int NOT_MODIFIED = 304;
    private static final String ENTITY_TAG = "etag";
    private static final String LAST_MODIFIED = "last-modified";
    private static final String DATED = "dated ";

    private final URI base;
    private final Settings settings;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(CONNECT)
            .followRedirects(Redirect.NEVER)
            .build();

    HttpPlace(Settings settings) {
        this.settings = settings;
        this.base = address(settings);
    }

    /** The address below which the files lie. */
    static URI address(Settings settings) {
        String address = settings.required(HttpType.ADDRESS);
        URI uri;
        try {
            uri = URI.create(address.endsWith("/") ? address : address + "/");
        } catch (IllegalArgumentException e) {
            throw malformed(address);
        }
        String scheme = uri.getScheme();
        if (scheme == null || !scheme.equals("http") && !scheme.equals("https") || uri.getHost() == null) {
            throw malformed(address);
        }
        return uri;
    }

    private static CannotGoOn malformed(String address) {
        return new CannotGoOn(Problem.at(
                new Place.InSetting(HttpType.ADDRESS),
                ProblemCode.SETTING_MALFORMED,
                address + " is not a web address.",
                "Write it like https://host/folder/."));
    }

    /** The server itself says whether a file is whole. */
    @Override
    public Duration quiet() {
        return Duration.ZERO;
    }

    @Override
    public Greeting greet() {
        int status = send("", "HEAD", "").statusCode();
        if (status == 401 || status == 403) {
            throw refused("", status);
        }
        return new Greeting("web server " + base, settings.text(HttpType.USER).orElse(""), true, null);
    }

    @Override
    public List<FoundFile> find(String name) {
        if (name.contains("*") || name.contains("?")) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SETTING_MALFORMED,
                    "A web server has no list of files, so " + name + " can't be looked for.",
                    "Name the file exactly."));
        }
        HttpResponse<InputStream> head = send(name, "HEAD", "");
        if (head.statusCode() == 404 || head.statusCode() == 410) {
            return List.of();
        }
        boolean silent = head.statusCode() == 405 || head.statusCode() == 501;
        if (!silent && head.statusCode() != OK) {
            throw refused(name, head.statusCode());
        }
        long size =
                silent ? -1 : head.headers().firstValueAsLong("content-length").orElse(-1);
        return List.of(new FoundFile(name, size, modified(head), version(head)));
    }

    private static Instant modified(HttpResponse<?> response) {
        try {
            return response.headers()
                    .firstValue(LAST_MODIFIED)
                    .map(date -> ZonedDateTime.parse(date, DateTimeFormatter.RFC_1123_DATE_TIME)
                            .toInstant())
                    .orElse(Instant.EPOCH);
        } catch (DateTimeException e) {
            return Instant.EPOCH;
        }
    }

    private static String version(HttpResponse<?> response) {
        return response.headers()
                .firstValue(ENTITY_TAG)
                .or(() -> response.headers().firstValue(LAST_MODIFIED).map(date -> DATED + date))
                .orElse("");
    }

    @Override
    public InputStream open(FoundFile file) {
        return openUnless(file, "").orElseThrow(() -> refused(file.name(), NOT_MODIFIED));
    }

    @Override
    public Optional<InputStream> openUnless(FoundFile file, String version) {
        HttpResponse<InputStream> response = send(file.name(), "GET", version);
        if (response.statusCode() == NOT_MODIFIED && !version.isEmpty()) {
            return Optional.empty();
        }
        if (response.statusCode() != OK) {
            throw refused(file.name(), response.statusCode());
        }
        return Optional.of(new SteadyBody(response.body(), STALLED, LEAST_BYTES));
    }

    /** The server has the whole body, or none of it. */
    @Override
    public void put(String name, Path content) {
        FilePattern.unfinished(name);
        try {
            HttpResponse<InputStream> response = send(name, "PUT", "", HttpRequest.BodyPublishers.ofFile(content));
            response.body().close();
            if (response.statusCode() / 100 != 2) {
                throw refused(name, response.statusCode());
            }
        } catch (IOException e) {
            throw unreachable(e);
        }
    }

    private HttpResponse<InputStream> send(String name, String method, String version) {
        return send(name, method, version, HttpRequest.BodyPublishers.noBody());
    }

    private HttpResponse<InputStream> send(String name, String method, String version, HttpRequest.BodyPublisher body) {
        String path = URLEncoder.encode(name, StandardCharsets.UTF_8)
                .replace("+", "%20")
                .replace("%2F", "/");
        URI uri = base.resolve(path);
        if (!uri.toString().startsWith(base.toString()) || name.contains("..")) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SETTING_MALFORMED,
                    "The file " + name + " leads out of " + base + ".",
                    "Name a file below the connection's address."));
        }
        try {
            for (int redirects = 0; redirects <= MOST_REDIRECTS; redirects++) {
                HttpResponse<InputStream> response =
                        client.send(request(uri, method, version, body), BodyHandlers.ofInputStream());
                Optional<String> location = response.headers().firstValue("location");
                if (response.statusCode() / 100 != 3 || location.isEmpty()) {
                    return response;
                }
                response.body().close();
                uri = sameHost(uri.resolve(location.get()));
            }
        } catch (IOException e) {
            throw unreachable(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw unreachable(e);
        }
        throw new CannotGoOn(Problem.of(
                ProblemCode.NOT_PERMITTED, base.getHost() + " redirects in circles.", "Correct the address."));
    }

    /** The account's secrets go to no other host. */
    private URI sameHost(URI uri) {
        if (!base.getHost().equals(uri.getHost())
                || base.getPort() != uri.getPort()
                || !base.getScheme().equals(uri.getScheme())) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.NOT_PERMITTED,
                    base.getHost() + " redirects to " + uri.getHost() + ", which is not followed.",
                    "State that host's address in the connection, if it is meant."));
        }
        return uri;
    }

    private HttpRequest request(URI uri, String method, String version, HttpRequest.BodyPublisher body) {
        HttpRequest.Builder request =
                HttpRequest.newBuilder(uri).timeout(PATIENCE).method(method, body);
        settings.secret(HttpType.TOKEN).ifPresent(token -> request.header("Authorization", "Bearer " + token));
        settings.text(HttpType.USER).ifPresent(user -> {
            String pair = user + ":" + settings.secret(HttpType.PASSWORD).orElse("");
            request.header(
                    "Authorization",
                    "Basic " + Base64.getEncoder().encodeToString(pair.getBytes(StandardCharsets.UTF_8)));
        });
        if (version.startsWith(DATED)) {
            request.header("If-Modified-Since", version.substring(DATED.length()));
        } else if (!version.isEmpty()) {
            request.header("If-None-Match", version);
        }
        return request.build();
    }

    private CannotGoOn refused(String name, int status) {
        boolean signIn = status == 401 || status == 403;
        boolean server = status >= 500;
        return new CannotGoOn(Problem.of(
                signIn ? ProblemCode.SIGN_IN_REFUSED : server ? ProblemCode.UNREACHABLE : ProblemCode.FILE_MISSING,
                base + name + " answers with status " + status + ".",
                signIn
                        ? "Check user, password or token of the connection."
                        : "Check the address and the file's name."));
    }

    private CannotGoOn unreachable(Exception e) {
        return new CannotGoOn(
                Problem.at(
                        new Place.InSetting(HttpType.ADDRESS),
                        ProblemCode.UNREACHABLE,
                        base + " can't be reached.",
                        "Check the address, and whether the server is up."),
                e);
    }

    @Override
    public void close() {
        client.shutdownNow();
    }
}
