package dev.nachlauf.service.environment;

import dev.nachlauf.api.EnvironmentView;
import dev.nachlauf.api.Page;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Deed;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/environments")
class EnvironmentController {
    private final Environments environments;

    EnvironmentController(Environments environments) {
        this.environments = environments;
    }

    /** All environments by name. */
    @GetMapping
    Page<EnvironmentView> list() {
        return new Page<>(environments.list(), null);
    }

    /** Keeps an environment, new or changed. */
    @PostMapping(consumes = "application/yaml")
    @Needs(value = Role.ADMINISTER, deed = "save environment")
    EnvironmentView save(
            @RequestParam(defaultValue = "environment.yaml") String file,
            @RequestBody String document,
            HttpServletRequest request) {
        EnvironmentView saved = environments.save(file, document, Caller.of(request));
        Deed.about(request, saved.name());
        return saved;
    }

    /** One environment. */
    @GetMapping("/{name}")
    EnvironmentView show(@PathVariable String name) {
        return environments.show(name);
    }

    /** Takes an environment away where nothing is under way in it. What ran there stays as it is. */
    @PostMapping("/{name}/retire")
    @Needs(value = Role.ADMINISTER, deed = "retire environment")
    EnvironmentView retire(@PathVariable String name, HttpServletRequest request) {
        Deed.about(request, name);
        return environments.retire(name);
    }
}
