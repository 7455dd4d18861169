package dev.nachlauf.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.function.Function;

/** A Server-Sent Event (WHATWG HTML, 9.2), as far as the service uses them. */
record ServerEvent(String name, String data) {
    private static final String NAME = "event:";
    private static final String DATA = "data:";

    <T> T read(Class<T> type) {
        return ServiceClient.JSON.readValue(data, type);
    }

    /** Reads a stream until it ends, or {@code more} says that it is enough. */
    static void read(InputStream stream, Function<ServerEvent, Boolean> more) throws IOException {
        BufferedReader lines = new BufferedReader(new InputStreamReader(stream, StandardCharsets.UTF_8));
        String name = "";
        for (String line = lines.readLine(); line != null; line = lines.readLine()) {
            if (line.startsWith(NAME)) {
                name = line.substring(NAME.length()).strip();
            } else if (line.startsWith(DATA) && !more.apply(new ServerEvent(name, line.substring(DATA.length())))) {
                return;
            }
        }
    }
}
