package dev.nachlauf.service.access;

import dev.nachlauf.api.OpenSession;
import dev.nachlauf.api.SessionLink;
import dev.nachlauf.api.SessionView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.HttpHeaders;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/session")
class SessionController {
    private final Sessions sessions;
    private final SessionCookie cookie;

    SessionController(Sessions sessions, SessionCookie cookie) {
        this.sessions = sessions;
        this.cookie = cookie;
    }

    /** Who calls, by token or session. */
    @GetMapping
    SessionView show() {
        return view(Caller.current().orElseThrow());
    }

    /** Opens a browser's session. Needs no token, for it takes one. */
    @PostMapping
    @Needs(Role.LOOK)
    SessionView open(@RequestBody OpenSession request, HttpServletRequest http, HttpServletResponse response) {
        Sessions.Opened opened;
        if (request.token() != null) {
            opened = sessions.openByToken(request.token().strip());
        } else if (request.code() != null) {
            opened = sessions.openByLink(request.code());
        } else {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED, "The request holds neither token nor code.", "Give one of them."));
        }
        response.addHeader(HttpHeaders.SET_COOKIE, cookie.holding(opened.secret(), http.isSecure()));
        return view(opened.caller());
    }

    /** Ends the browser's session. */
    @DeleteMapping
    @Needs(Role.LOOK)
    SessionView close(HttpServletRequest http, HttpServletResponse response) {
        cookie.of(http).ifPresent(sessions::close);
        response.addHeader(HttpHeaders.SET_COOKIE, cookie.gone(http.isSecure()));
        return view(Caller.current().orElseThrow());
    }

    /** A link that opens the console once, as the caller. */
    @PostMapping("/links")
    @Needs(value = Role.LOOK, deed = "make link")
    SessionLink link(HttpServletRequest http) {
        return sessions.link(Caller.of(http));
    }

    private static SessionView view(Caller caller) {
        return new SessionView(caller.getName(), caller.role().word(), caller.seesSensitive());
    }
}
