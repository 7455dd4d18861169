package dev.nachlauf.service.reject;

import dev.nachlauf.api.FixRejects;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.RejectGroup;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.api.RejectsChanged;
import dev.nachlauf.api.SetRejectsAside;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/rejects")
class RejectController {
    private final Rejects rejects;

    private final RejectDecisions decisions;

    RejectController(Rejects rejects, RejectDecisions decisions) {
        this.rejects = rejects;
        this.decisions = decisions;
    }

    /**
     * Rejects of a run, of a job, or all, in the order in which they were kept; those whose rows have gone through since
     * only where {@code closed} says so.
     */
    @GetMapping
    Page<RejectView> list(
            @RequestParam(required = false) @Nullable Long run,
            @RequestParam(required = false) @Nullable String job,
            @RequestParam(defaultValue = "false") boolean closed,
            @RequestParam(required = false) @Nullable String cursor,
            @RequestParam(defaultValue = "100") int limit) {
        return rejects.list(run, job, closed, cursor, limit);
    }

    /** Corrects cells of rejected rows; the corrections count when the rows are sent again. */
    @PostMapping("/fix")
    @Needs(value = Role.RUN, deed = "fix rejects")
    RejectsChanged fix(@RequestBody FixRejects request, HttpServletRequest http) {
        return new RejectsChanged(decisions.fix(request, Caller.of(http)));
    }

    /** Sets rejects aside, so that they are not sent again, or takes them in again. */
    @PostMapping("/set-aside")
    @Needs(value = Role.RUN, deed = "set rejects aside")
    RejectsChanged setAside(@RequestBody SetRejectsAside request, HttpServletRequest http) {
        return new RejectsChanged(decisions.setAside(request, Caller.of(http)));
    }

    /** How many rejects of a run have which reason, commonest first. */
    @GetMapping("/groups")
    Page<RejectGroup> groups(@RequestParam long run) {
        return new Page<>(rejects.groups(run), null);
    }
}
