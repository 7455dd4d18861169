package dev.nachlauf.service.look;

import dev.nachlauf.service.access.Caller;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import java.util.Collections;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Who asks for a look.
 *
 * @param caller the caller's name
 * @param patience how long the caller waits for the result before the answer only names the look
 */
record Asking(String caller, Duration patience) {
    private static final Duration USUAL = Duration.ofSeconds(10);
    private static final long LONGEST_SECONDS = 60;
    private static final Pattern WAIT = Pattern.compile("wait\\s*=\\s*([0-9]{1,6})");

    /**
     * The caller of a request. It says with {@code Prefer} of RFC 7240 how long it waits: {@code wait=SECONDS}, or {@code
     * respond-async} for not at all.
     */
    static Asking of(HttpServletRequest request) {
        return new Asking(Caller.of(request), patience(Collections.list(request.getHeaders("Prefer"))));
    }

    static Duration patience(List<String> preferences) {
        for (String preference : preferences) {
            Matcher wait = WAIT.matcher(preference);
            if (wait.find()) {
                return Duration.ofSeconds(Math.min(LONGEST_SECONDS, Long.parseLong(wait.group(1))));
            }
        }
        return preferences.stream().anyMatch(preference -> preference.contains("respond-async"))
                ? Duration.ZERO
                : USUAL;
    }
}
