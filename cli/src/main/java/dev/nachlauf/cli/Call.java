package dev.nachlauf.cli;

import java.io.IOException;
import java.io.InputStream;
import java.net.HttpURLConnection;
import java.net.MalformedURLException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A call to the service, by the JDK's small HTTP client: its large one takes half a second to load, of every command.
 * A call is made once, whatever happens to it.
 */
final class Call {
    static {
        // the JDK would send a call a second time whose answer was lost, and the service do twice what was asked once
        System.setProperty("sun.net.http.retryPost", "false");
    }

    private static final int CONNECT_MILLIS = 5_000;

    /** What is longer is streamed. Of a refusal for want of a token the JDK passes on no more than the status then. */
    private static final int SMALL = 1 << 20;

    private final HttpURLConnection connection;

    /**
     * @param token what says who calls; empty for nobody
     * @throws IOException where the address is none
     */
    Call(String address, Optional<String> token) throws IOException {
        try {
            if (!(URI.create(address).toURL().openConnection() instanceof HttpURLConnection http)) {
                throw new MalformedURLException(address);
            }
            connection = http;
        } catch (IllegalArgumentException e) {
            throw new IOException(e);
        }
        connection.setConnectTimeout(CONNECT_MILLIS);
        connection.setInstanceFollowRedirects(false);
        connection.setUseCaches(false);
        with("Accept", "*/*");
        token.ifPresent(secret -> with("Authorization", "Bearer " + secret));
    }

    /** With a header. */
    Call with(String header, String value) {
        connection.setRequestProperty(header, value);
        return this;
    }

    /**
     * An answer that was read to its end.
     *
     * @param location where something else is; empty where the answer says nothing of the kind
     */
    record Answer(int status, Optional<String> location, String body) {}

    Answer get() throws IOException {
        return answer();
    }

    Answer post(Body body) throws IOException {
        connection.setRequestMethod("POST");
        connection.setDoOutput(true);
        body.type().ifPresent(type -> with("Content-Type", type));
        if (body.length() < 0) {
            connection.setChunkedStreamingMode(0);
        } else if (body.length() > SMALL) {
            connection.setFixedLengthStreamingMode(body.length());
        }
        try (var to = connection.getOutputStream()) {
            body.content().writeTo(to);
        } catch (IOException e) {
            return refusedEarly(e);
        }
        return answer();
    }

    /** A service that wants no more of a body answers, and doesn't read on. */
    private Answer refusedEarly(IOException sending) throws IOException {
        try {
            return answer();
        } catch (IOException e) {
            throw sending;
        }
    }

    private Answer answer() throws IOException {
        try (InputStream body = body()) {
            return new Answer(
                    status(),
                    Optional.ofNullable(connection.getHeaderField("Location")),
                    body == null ? "" : new String(body.readAllBytes(), StandardCharsets.UTF_8));
        }
    }

    /** The status of the answer, which is waited for. */
    int status() throws IOException {
        int status = connection.getResponseCode();
        if (status < 0) {
            throw new IOException("the answer is no HTTP");
        }
        return status;
    }

    /** The body of the answer, to be closed; null where it has none. */
    @Nullable
    InputStream body() throws IOException {
        return status() < HttpURLConnection.HTTP_BAD_REQUEST
                ? connection.getInputStream()
                : connection.getErrorStream();
    }
}
