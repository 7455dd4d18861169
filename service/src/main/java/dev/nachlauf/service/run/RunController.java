package dev.nachlauf.service.run;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.ReleaseRun;
import dev.nachlauf.api.RunLine;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Deed;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

@RestController
@RequestMapping("/api/v1/runs")
class RunController {
    private final Runs runs;
    private final RunViews views;
    private final RunEvents events;

    RunController(Runs runs, RunViews views, RunEvents events) {
        this.runs = runs;
        this.views = views;
        this.events = events;
    }

    @GetMapping
    Page<RunLine> list(
            @RequestParam(required = false) @Nullable String job,
            @RequestParam(required = false) @Nullable String cursor,
            @RequestParam(defaultValue = "50") int limit) {
        return views.list(job, cursor, limit);
    }

    @PostMapping
    @Needs(value = Role.RUN, deed = "start run")
    @ResponseStatus(HttpStatus.CREATED)
    RunView start(@RequestBody StartRun request, HttpServletRequest http) {
        RunView started = runs.start(request, Caller.of(http));
        Deed.about(http, started.id());
        return started;
    }

    @GetMapping("/{id}")
    RunView show(@PathVariable long id) {
        return views.show(id);
    }

    /** Server-Sent Events: {@code progress} with a run's view whenever it changes, {@code end} with the last one. */
    @GetMapping(path = "/{id}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter events(@PathVariable long id) {
        views.show(id);
        return events.follow(id);
    }

    @PostMapping("/{id}/stop")
    @Needs(value = Role.RUN, deed = "stop run")
    RunView stop(@PathVariable long id) {
        return runs.stop(id);
    }

    @PostMapping("/{id}/release")
    @Needs(value = Role.RUN, deed = "release run")
    RunView release(@PathVariable long id, @RequestBody ReleaseRun request) {
        return runs.release(id, request.beyondLimit());
    }

    @PostMapping("/{id}/discard")
    @Needs(value = Role.RUN, deed = "discard run")
    RunView discard(@PathVariable long id) {
        return runs.discard(id);
    }
}
