package dev.nachlauf.service.run;

import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.api.Page;
import dev.nachlauf.core.issue.IssuedFiles.Made;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.web.SentFile;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The files that a run hands over, made once more from its ledger; of a plan those that it would hand over. */
@RestController
@RequestMapping("/api/v1/runs/{id}/issued")
class IssuedController {
    private final RunViews views;
    private final RunPreparation preparation;
    private final RunIssuing issuing;
    private final LedgerOfRun ledger;
    private final ScratchSpace scratchSpace;

    IssuedController(
            RunViews views,
            RunPreparation preparation,
            RunIssuing issuing,
            LedgerOfRun ledger,
            ScratchSpace scratchSpace) {
        this.views = views;
        this.preparation = preparation;
        this.issuing = issuing;
        this.ledger = ledger;
        this.scratchSpace = scratchSpace;
    }

    private List<Made> made(long id, ScratchFolder scratch) throws IOException {
        RunEntity run = views.entity(id);
        try (PreparedJob job = run.undoes != null && preparation.addsToFiles(run.undoes)
                ? preparation.toUndo(views.entity(run.undoes), run)
                : preparation.asItWas(id, scratch.path(), UnaryOperator.identity())) {
            if (!RunIssuing.issues(job.plan())) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.RUN_STATE,
                        "Run " + id + " issues no files.",
                        "Its results are those of run results."));
            }
            return issuing.made(run, job, ledger.chunks(id, run.stage()), scratch.path());
        }
    }

    /** Which files there are. */
    @GetMapping
    @Needs(Role.RUN)
    Page<IssuedFileView> list(@PathVariable long id) throws IOException {
        List<String> delivered =
                views.entity(id).issued.stream().map(IssuedFileView::name).toList();
        try (ScratchFolder scratch = scratchSpace.create()) {
            return new Page<>(
                    made(id, scratch).stream()
                            .map(file -> RunIssuing.view(file, delivered.contains(file.name())))
                            .toList(),
                    null);
        }
    }

    /** One of them. */
    @GetMapping(path = "/file", produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    @Needs(Role.RUN)
    void file(@PathVariable long id, @RequestParam String name, HttpServletResponse response) throws IOException {
        try (ScratchFolder scratch = scratchSpace.create()) {
            List<Made> files = made(id, scratch);
            Made file = files.stream()
                    .filter(one -> one.name().equals(name))
                    .findFirst()
                    .orElseThrow(() -> new CannotGoOn(Problem.of(
                            ProblemCode.NOT_FOUND,
                            "Run " + id + " has no file " + name + ".",
                            "It has: " + files.stream().map(Made::name).collect(Collectors.joining(", ")) + ".")));
            SentFile.send(response, file.content(), file.name(), MediaType.APPLICATION_OCTET_STREAM_VALUE);
        }
    }
}
