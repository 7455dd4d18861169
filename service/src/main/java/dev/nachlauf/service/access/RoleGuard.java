package dev.nachlauf.service.access;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.HandlerInterceptor;

/** Refuses what the caller's role does not allow, and notes who did what. */
@Component
class RoleGuard implements HandlerInterceptor {
    /** They change nothing; HEAD is answered by what answers GET. */
    private static final Set<String> ASKING = Set.of("GET", "HEAD", "OPTIONS");

    private final Activities activities;

    RoleGuard(Activities activities) {
        this.activities = activities;
    }

    @Override
    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
        if (request.getDispatcherType() == DispatcherType.REQUEST && handler instanceof HandlerMethod method) {
            Needs needs = method.getMethodAnnotation(Needs.class);
            if (needs == null && !ASKING.contains(request.getMethod())) {
                throw new IllegalStateException(method + " does not say which role it needs");
            }
            Role least = needs == null ? Role.LOOK : needs.value();
            Optional<Caller> caller = Caller.current();
            if (caller.isPresent() && !caller.get().role().includes(least)) {
                note(request, needs, 403);
                throw lacking(caller.get(), least);
            }
        }
        return true;
    }

    private static CannotGoOn lacking(Caller caller, Role least) {
        return new CannotGoOn(Problem.of(
                ProblemCode.ROLE_LACKING,
                "The token " + caller.getName() + " may " + caller.role().word() + ", but this needs the role "
                        + least.word() + ".",
                "Ask somebody who may administer for another token."));
    }

    @Override
    public void afterCompletion(
            HttpServletRequest request, HttpServletResponse response, Object handler, @Nullable Exception failure) {
        if (handler instanceof HandlerMethod method) {
            note(request, method.getMethodAnnotation(Needs.class), response.getStatus());
        }
    }

    private void note(HttpServletRequest request, @Nullable Needs needs, int status) {
        if (needs != null && !needs.deed().isEmpty()) {
            activities.note(Caller.of(request), needs.deed(), Deed.about(request), status);
        }
    }
}
