package dev.nachlauf.service.run;

import dev.nachlauf.api.LeaveOut;
import dev.nachlauf.api.LeftOutView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.ReleaseRun;
import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunLine;
import dev.nachlauf.api.RunLogLine;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.api.UndoRun;
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
    private final RunLog log;
    private final LeftOut leftOut;
    private final RunUndoing undoing;
    private final RunResubmitting resubmitting;

    RunController(
            Runs runs,
            RunViews views,
            RunEvents events,
            RunLog log,
            LeftOut leftOut,
            RunUndoing undoing,
            RunResubmitting resubmitting) {
        this.resubmitting = resubmitting;
        this.leftOut = leftOut;
        this.undoing = undoing;
        this.runs = runs;
        this.views = views;
        this.events = events;
        this.log = log;
    }

    /** Runs, newest first. */
    @GetMapping
    Page<RunLine> list(
            @RequestParam(required = false) @Nullable String job,
            @RequestParam(required = false) @Nullable String cursor,
            @RequestParam(defaultValue = "50") int limit) {
        return views.list(job, cursor, limit);
    }

    /** Starts a run of a job's newest version. */
    @PostMapping
    @Needs(value = Role.RUN, deed = "start run")
    @ResponseStatus(HttpStatus.CREATED)
    RunView start(@RequestBody StartRun request, HttpServletRequest http) {
        RunView started = runs.start(request, Caller.of(http));
        Deed.about(http, started.id());
        return started;
    }

    /** One run with its balance. */
    @GetMapping("/{id}")
    RunView show(@PathVariable long id) {
        return views.show(id);
    }

    /** What has happened to a run, in order. */
    @GetMapping("/{id}/log")
    Page<RunLogLine> log(@PathVariable long id) {
        views.show(id);
        return new Page<>(log.of(id), null);
    }

    /** Server-Sent Events: {@code progress} with a run's view whenever it changes, {@code end} with the last one. */
    @GetMapping(path = "/{id}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter events(@PathVariable long id) {
        views.show(id);
        return events.follow(id);
    }

    /** Ends a run after the batch in hand; one that waits ends at once. */
    @PostMapping("/{id}/stop")
    @Needs(value = Role.RUN, deed = "stop run")
    RunView stop(@PathVariable long id, HttpServletRequest http) {
        return runs.stop(id, Caller.of(http));
    }

    /** Lets a held run go on. */
    @PostMapping("/{id}/release")
    @Needs(value = Role.RUN, deed = "release run")
    RunView release(@PathVariable long id, @RequestBody ReleaseRun request, HttpServletRequest http) {
        return runs.release(id, request.beyondLimit(), Caller.of(http));
    }

    /** Leaves rows of a held run out, or takes them in again. */
    @PostMapping("/{id}/left-out")
    @Needs(value = Role.RUN, deed = "leave rows out")
    LeftOutView leaveOut(@PathVariable long id, @RequestBody LeaveOut request, HttpServletRequest http) {
        views.show(id);
        return leftOut.say(id, request.rows(), !Boolean.FALSE.equals(request.leftOut()), Caller.of(http));
    }

    /** Which rows of a held run are left out, and who has said so. */
    @GetMapping("/{id}/left-out")
    LeftOutView leftOut(@PathVariable long id) {
        views.show(id);
        return leftOut.view(id);
    }

    /** Takes back what a run has written; that is a run of its own. */
    @PostMapping("/{id}/undo")
    @Needs(value = Role.RUN, deed = "undo run")
    @ResponseStatus(HttpStatus.CREATED)
    RunView undo(@PathVariable long id, @RequestBody UndoRun request, HttpServletRequest http) {
        RunView started = undoing.start(id, request, Caller.of(http));
        Deed.about(http, started.id());
        return started;
    }

    /** Starts a run that sends the open rejects of another one through the job as it is now. */
    @PostMapping("/{id}/resubmit")
    @Needs(value = Role.RUN, deed = "send rejects again")
    @ResponseStatus(HttpStatus.CREATED)
    RunView resubmit(@PathVariable long id, @RequestBody ResubmitRejects request, HttpServletRequest http) {
        RunView started = resubmitting.start(id, request, Caller.of(http));
        Deed.about(http, started.id());
        return started;
    }

    /** Ends a held run; what it has written stays. */
    @PostMapping("/{id}/discard")
    @Needs(value = Role.RUN, deed = "discard run")
    RunView discard(@PathVariable long id, HttpServletRequest http) {
        return runs.discard(id, Caller.of(http));
    }
}
