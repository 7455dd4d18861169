package dev.nachlauf.service.reject;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.RejectGroup;
import dev.nachlauf.api.RejectView;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/rejects")
class RejectController {
    private final Rejects rejects;

    RejectController(Rejects rejects) {
        this.rejects = rejects;
    }

    /** Rejects of a run, of a job, or all, in the order in which they were kept. */
    @GetMapping
    Page<RejectView> list(
            @RequestParam(required = false) @Nullable Long run,
            @RequestParam(required = false) @Nullable String job,
            @RequestParam(required = false) @Nullable String cursor,
            @RequestParam(defaultValue = "100") int limit) {
        return rejects.list(run, job, cursor, limit);
    }

    /** How many rejects of a run have which reason, commonest first. */
    @GetMapping("/groups")
    Page<RejectGroup> groups(@RequestParam long run) {
        return new Page<>(rejects.groups(run), null);
    }
}
