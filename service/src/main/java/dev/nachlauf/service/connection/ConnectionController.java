package dev.nachlauf.service.connection;

import dev.nachlauf.api.ConnectionTest;
import dev.nachlauf.api.ConnectionView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.RecordTypeView;
import dev.nachlauf.api.RecordsView;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Deed;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.look.Looks;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/connections")
class ConnectionController {
    private final Connections connections;
    private final Looking looking;
    private final Looks looks;

    ConnectionController(Connections connections, Looking looking, Looks looks) {
        this.connections = connections;
        this.looking = looking;
        this.looks = looks;
    }

    /** All connections by name. */
    @GetMapping
    Page<ConnectionView> list() {
        return new Page<>(connections.list(), null);
    }

    /** Keeps a connection, new or changed. Secrets stand in it by reference only. */
    @PostMapping(consumes = "application/yaml")
    @Needs(value = Role.ADMINISTER, deed = "save connection")
    ConnectionView save(
            @RequestParam(defaultValue = "connection.yaml") String file,
            @RequestBody String document,
            HttpServletRequest request) {
        ConnectionView saved = connections.save(file, document, Caller.of(request));
        Deed.about(request, saved.name());
        return saved;
    }

    /** One connection, as it was written. */
    @GetMapping("/{name}")
    ConnectionView show(@PathVariable String name) {
        return connections.show(name);
    }

    /** Whether the system is reached, and as whom. */
    @PostMapping("/{name}/test")
    @Needs(Role.LOOK)
    ConnectionTest test(@PathVariable String name, HttpServletRequest http) {
        return looks.result(http, "test", name, () -> looking.test(name));
    }

    /** The record types of a system. */
    @GetMapping("/{name}/records")
    Page<RecordTypeView> records(@PathVariable String name, HttpServletRequest http) {
        return looks.result(http, "records", name, () -> new Page<>(looking.records(name), null));
    }

    /** What a record type demands, field by field. */
    @GetMapping("/{name}/records/{records}")
    RecordsView fields(@PathVariable String name, @PathVariable String records, HttpServletRequest http) {
        return looks.result(http, "fields", name, () -> looking.describe(name, records));
    }
}
