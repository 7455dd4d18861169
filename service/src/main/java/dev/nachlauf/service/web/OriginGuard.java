package dev.nachlauf.service.web;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.Exposure;
import dev.nachlauf.service.NachlaufSettings;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerExceptionResolver;

/**
 * Any page that a browser shows can call what the browser's user can reach. Requests from pages of other origins are
 * refused, and so are requests for a host that is not ours, which is how a foreign name that was pointed at our address
 * shows itself.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class OriginGuard extends OncePerRequestFilter {
    private final Set<String> hosts;
    private final HandlerExceptionResolver problems;

    OriginGuard(
            NachlaufSettings settings,
            @Value("${server.address}") String address,
            @Qualifier("handlerExceptionResolver") HandlerExceptionResolver problems) {
        this.hosts = Exposure.isLoopback(address) ? Exposure.LOOPBACK : Set.copyOf(settings.hosts());
        this.problems = problems;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        if (!hosts.contains(request.getServerName())) {
            refuse(request, response, "This service is not called " + request.getServerName() + ".");
        } else if (isForeign(request.getHeader("Origin"), request) || isCrossSite(request)) {
            refuse(request, response, "Pages of other origins may not call this service.");
        } else {
            chain.doFilter(request, response);
        }
    }

    private void refuse(HttpServletRequest request, HttpServletResponse response, String why) {
        problems.resolveException(
                request, response, null, new CannotGoOn(Problem.of(ProblemCode.REQUEST_FOREIGN, why, "")));
    }

    private static boolean isForeign(@Nullable String origin, HttpServletRequest request) {
        if (origin == null) {
            return false;
        }
        try {
            URI uri = URI.create(origin);
            return !(request.getServerName().equals(uri.getHost()) && request.getServerPort() == port(uri));
        } catch (IllegalArgumentException e) {
            return true;
        }
    }

    private static int port(URI origin) {
        return origin.getPort() >= 0 ? origin.getPort() : "https".equals(origin.getScheme()) ? 443 : 80;
    }

    /** Browsers say so (Fetch Metadata). A link elsewhere may lead to the console's pages, but not to the interface. */
    private static boolean isCrossSite(HttpServletRequest request) {
        String site = request.getHeader("Sec-Fetch-Site");
        boolean page = "navigate".equals(request.getHeader("Sec-Fetch-Mode"))
                && !request.getRequestURI().startsWith("/api/");
        return site != null && !Set.of("same-origin", "none").contains(site) && !page;
    }
}
