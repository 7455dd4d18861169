package dev.nachlauf.service.access;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Optional;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpHeaders;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.transaction.TransactionException;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerExceptionResolver;

/** Finds out who calls: by the token that a request carries, else by the session of its browser. */
class CallerFilter extends OncePerRequestFilter {
    private static final String BEARER = "Bearer ";

    private final Tokens tokens;
    private final SessionCookie cookie;
    private final HandlerExceptionResolver problems;

    CallerFilter(Tokens tokens, SessionCookie cookie, HandlerExceptionResolver problems) {
        this.tokens = tokens;
        this.cookie = cookie;
        this.problems = problems;
    }

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        String address = request.getRequestURI();
        return !address.startsWith("/api/") && !address.startsWith("/actuator");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        try {
            caller(request).ifPresent(SecurityContextHolder.getContext()::setAuthentication);
        } catch (DataAccessException | TransactionException e) {
            problems.resolveException(request, response, null, e);
            return;
        }
        chain.doFilter(request, response);
    }

    private Optional<Caller> caller(HttpServletRequest request) {
        String authorization = request.getHeader(HttpHeaders.AUTHORIZATION);
        if (authorization != null && authorization.startsWith(BEARER)) {
            return tokens.callerOf(authorization.substring(BEARER.length()).strip());
        }
        return cookie.of(request).flatMap(tokens::callerOfSession);
    }

    /** What somebody is told who called without a good token. */
    static CannotGoOn notSignedIn() {
        return new CannotGoOn(Problem.of(
                ProblemCode.NOT_SIGNED_IN,
                "The call carries no token, or one that was retired.",
                "Name one in NACHLAUF_TOKEN; nachlauf token save NAME --role ROLE makes one."));
    }
}
