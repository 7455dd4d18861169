package dev.nachlauf.service.access;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import java.util.Arrays;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.http.ResponseCookie;
import org.springframework.stereotype.Component;

/** The cookie that holds a session. Browsers don't tell ports apart, so its name holds ours. */
@Component
class SessionCookie {
    private final String name;

    SessionCookie(@Value("${server.port}") int port) {
        this.name = "nachlauf-session-" + port;
    }

    /** The session of a request; empty where it has none. */
    Optional<String> of(HttpServletRequest request) {
        Cookie[] cookies = request.getCookies();
        return cookies == null
                ? Optional.empty()
                : Arrays.stream(cookies)
                        .filter(cookie -> cookie.getName().equals(name))
                        .map(Cookie::getValue)
                        .findFirst();
    }

    String holding(String secret, boolean secure) {
        return cookie(secret, secure, Sessions.SESSION);
    }

    String gone(boolean secure) {
        return cookie("", secure, Duration.ZERO);
    }

    /** Scripts can't read it, and no page of another site can make a browser send it. */
    private String cookie(String value, boolean secure, Duration age) {
        return ResponseCookie.from(name, value)
                .httpOnly(true)
                .secure(secure)
                .sameSite("Strict")
                .path("/")
                .maxAge(age)
                .build()
                .toString();
    }
}
