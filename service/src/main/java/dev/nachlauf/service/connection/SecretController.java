package dev.nachlauf.service.connection;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.SecretBindingView;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/secrets")
class SecretController {
    private final SecretBindings bindings;

    SecretController(SecretBindings bindings) {
        this.bindings = bindings;
    }

    /** The secrets that connections have used, and the host that each belongs to. */
    @GetMapping
    @Needs(Role.ADMINISTER)
    Page<SecretBindingView> list() {
        return new Page<>(bindings.list(), null);
    }

    /** Lets a secret go to another host; its next use binds it again. */
    @PostMapping("/{reference}/unbind")
    @Needs(value = Role.ADMINISTER, deed = "unbind secret")
    SecretBindingView unbind(@PathVariable String reference) {
        return bindings.unbind(reference);
    }
}
