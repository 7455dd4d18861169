package dev.nachlauf.service.web;

import dev.nachlauf.core.problem.ProblemCode;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * A service on loopback can be called by any page that its user's browser shows. Requests from pages of other origins
 * are refused, and so are requests whose host is not a name of loopback, which is how a foreign name that was pointed at
 * loopback shows itself.
 */
@Component
class OriginGuard extends OncePerRequestFilter {
    private static final Set<String> LOOPBACK = Set.of("localhost", "127.0.0.1", "[::1]");

    private final boolean loopbackOnly;

    OriginGuard(@Value("${server.address}") String address) {
        this.loopbackOnly = LOOPBACK.contains(address) || address.equals("::1");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        String host = request.getServerName();
        boolean foreignHost = loopbackOnly && !LOOPBACK.contains(host);
        if (foreignHost || isForeign(request.getHeader("Origin"), request)) {
            response.setStatus(HttpServletResponse.SC_FORBIDDEN);
            response.setContentType("application/problem+json");
            response.getWriter()
                    .write("{\"status\":403,\"title\":\"request foreign\",\"code\":\""
                            + ProblemCode.REQUEST_FOREIGN.id() + "\",\"detail\":"
                            + "\"Pages of other origins may not call this service.\"}");
            return;
        }
        chain.doFilter(request, response);
    }

    private static boolean isForeign(@Nullable String origin, HttpServletRequest request) {
        if (origin == null) {
            return false;
        }
        try {
            URI uri = URI.create(origin);
            return !(request.getServerName().equals(uri.getHost()) && request.getServerPort() == uri.getPort());
        } catch (IllegalArgumentException e) {
            return true;
        }
    }
}
