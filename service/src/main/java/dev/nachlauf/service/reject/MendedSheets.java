package dev.nachlauf.service.reject;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.reject.MendedSheet.Line;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.run.Runs.Surroundings;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import jakarta.persistence.EntityManager;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Takes workbooks of rejects back that people have mended. */
@Component
class MendedSheets {
    private static final int PAGE = 1_000;

    private final Sources sources;
    private final ScratchSpace scratchSpace;
    private final Runs runs;
    private final RejectRepository rejects;
    private final RejectDecisions decisions;
    private final EntityManager entities;

    MendedSheets(
            Sources sources,
            ScratchSpace scratchSpace,
            Runs runs,
            RejectRepository rejects,
            RejectDecisions decisions,
            EntityManager entities) {
        this.sources = sources;
        this.scratchSpace = scratchSpace;
        this.runs = runs;
        this.rejects = rejects;
        this.decisions = decisions;
        this.entities = entities;
    }

    /** Reads a workbook; no reject is looked at yet. */
    MendedSheet read(FileView file, long run) {
        List<String> header = runs.surroundings(run).header();
        try (ScratchFolder scratch = scratchSpace.create();
                SourceReader reader = opened(file, scratch)) {
            return MendedSheet.read(reader, header);
        }
    }

    private SourceReader opened(FileView file, ScratchFolder scratch) {
        SourcePart part = sources.parts(
                        List.of(file), Optional.empty(), new FormatOptions(Map.of(), List.of()), scratch.path())
                .getFirst();
        if (!part.format().equals("xlsx") && !part.format().equals("ods")) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SHEET_UNFIT,
                    file.name() + " is not a workbook.",
                    "Mend the one that rejects export --out rejects.xlsx writes, and send it back."));
        }
        Map<String, String> first = Map.of("sheets", "1", "header-row", "1");
        return sources.open(
                new SourcePart(part.file(), part.member(), part.format(), first), List.of(), scratch.path());
    }

    /**
     * Keeps what a workbook says otherwise than the rejects, as corrections; all of it, or nothing where a part of it is
     * wrong.
     *
     * @return the rejects in it that are open
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<Long> apply(MendedSheet sheet, long run, String by) {
        Surroundings surroundings = runs.surroundings(run);
        List<Long> numbers = List.copyOf(sheet.lines().keySet());
        List<Long> open = new ArrayList<>();
        List<Problem> problems = new ArrayList<>();
        for (int from = 0; from < numbers.size(); from += PAGE) {
            List<Long> some = numbers.subList(from, Math.min(numbers.size(), from + PAGE));
            List<RejectEntity> found = rejects.locked(some);
            List<Long> missing = new ArrayList<>(some);
            for (RejectEntity reject : found) {
                if (reject.runId == run) {
                    missing.remove(reject.id);
                    if (apply(sheet.line(reject.id), reject, surroundings, by, problems)) {
                        open.add(reject.id);
                    }
                }
            }
            missing.forEach(number -> problems.add(Problem.of(
                    ProblemCode.NOT_FOUND,
                    "Run " + run + " has no reject " + number + ": "
                            + sheet.line(number).place() + ".",
                    "Remove the row.")));
            entities.flush();
            entities.clear();
        }
        CannotGoOn.overErrorsAmong(problems);
        return open;
    }

    /** The result says whether the reject can be sent again. */
    private boolean apply(Line line, RejectEntity reject, Surroundings run, String by, List<Problem> problems) {
        RejectView view = Rejects.view(reject, run);
        boolean open = reject.state.equals(Rejects.OPEN) && reject.sentBy == null;
        Map<String, String> corrections = MendedSheet.corrections(line, view, sources.table(RejectSheet.FORMAT));
        if (corrections.isEmpty()) {
            return open;
        }
        if (!open || line.edition() != reject.edition) {
            problems.add(Problem.of(
                    ProblemCode.REJECT_STATE,
                    "Reject " + reject.id + " has changed since the workbook was written: " + line.place() + ".",
                    "Export it again, and mend it there."));
            return false;
        }
        decisions.correct(reject, corrections, by);
        return true;
    }
}
