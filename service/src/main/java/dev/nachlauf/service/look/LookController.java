package dev.nachlauf.service.look;

import dev.nachlauf.api.LookView;
import dev.nachlauf.api.Page;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.bind.annotation.RestControllerAdvice;

@RestController
@RequestMapping(LookController.ADDRESS)
class LookController {
    static final String ADDRESS = "/api/v1/looks";

    private final Looks looks;

    LookController(Looks looks) {
        this.looks = looks;
    }

    /** The caller's own looks. */
    @GetMapping
    Page<LookView> list(HttpServletRequest request) {
        return new Page<>(looks.of(Caller.of(request)).stream().map(Look::view).toList(), null);
    }

    /** One look: how far it is. */
    @GetMapping("/{id}")
    LookView show(@PathVariable String id, HttpServletRequest request) {
        return looks.find(id, Caller.of(request)).view();
    }

    /** What the call that began the look would have answered. */
    @GetMapping("/{id}/result")
    Object result(@PathVariable String id, HttpServletRequest request) {
        return looks.result(id, Asking.of(request));
    }

    /** Ends a look. */
    @PostMapping("/{id}/stop")
    @Needs(Role.LOOK)
    LookView stop(@PathVariable String id, HttpServletRequest request) {
        Look look = looks.find(id, Caller.of(request));
        looks.stop(look);
        return look.view();
    }

    /** Answers that only name a look; before the advice that takes every exception. */
    @RestControllerAdvice
    @Order(Ordered.HIGHEST_PRECEDENCE)
    static class Accepted {
        @ExceptionHandler
        ResponseEntity<LookView> underWay(LookUnderWay e) {
            return ResponseEntity.accepted()
                    .location(URI.create(ADDRESS + "/" + e.look().id() + "/result"))
                    .header("Retry-After", "1")
                    .body(e.look());
        }
    }
}
