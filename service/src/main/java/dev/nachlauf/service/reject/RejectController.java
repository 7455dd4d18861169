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
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.source.Sources;
import dev.nachlauf.service.web.SentFile;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
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
    private final RejectGroups groups;
    private final Runs runs;
    private final Sources sources;
    private final ScratchSpace scratchSpace;

    RejectController(
            Rejects rejects,
            RejectDecisions decisions,
            RejectGroups groups,
            Runs runs,
            Sources sources,
            ScratchSpace scratchSpace) {
        this.sources = sources;
        this.groups = groups;
        this.runs = runs;
        this.scratchSpace = scratchSpace;
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

    /**
     * How many rejected rows of a run, of a job, or of all have which reason, commonest first; by {@code code}, by
     * {@code field} or by {@code value}. A row with several reasons counts in each of their groups.
     */
    @GetMapping("/groups")
    Page<RejectGroup> groups(
            @RequestParam(required = false) @Nullable Long run,
            @RequestParam(required = false) @Nullable String job,
            @RequestParam(defaultValue = "field") String by) {
        return new Page<>(groups.of(run, job, by), null);
    }

    /** The rejects of a run that are not closed, as a workbook in which they can be mended and sent back. */
    @GetMapping(path = "/sheet", produces = SentFile.XLSX)
    void sheet(@RequestParam long run, HttpServletResponse response) throws IOException {
        List<String> header = runs.surroundings(run).header();
        try (ScratchFolder scratch = scratchSpace.create()) {
            Path file = scratch.path().resolve("rejects");
            RejectSheet.write(sources.table(RejectSheet.FORMAT), rejects, run, header, file);
            SentFile.send(response, file, "rejects-of-run-" + run + ".xlsx", SentFile.XLSX);
        }
    }
}
