package dev.nachlauf.service.record;

import dev.nachlauf.api.ConfirmationView;
import dev.nachlauf.api.FileView;
import dev.nachlauf.api.VerificationView;
import dev.nachlauf.core.issue.Confirmation;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.run.LedgerWrites.Write;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.look.RowWatch;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.run.WrittenRun;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import dev.nachlauf.service.web.Masked;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Compares what a run has issued with an export of the system that was to take it. */
@Component
class RunConfirmation {
    private final LedgerOfRun ledger;
    private final RunViews views;
    private final Runs runs;
    private final Sources sources;
    private final ScratchSpace scratchSpace;

    RunConfirmation(LedgerOfRun ledger, RunViews views, Runs runs, Sources sources, ScratchSpace scratchSpace) {
        this.ledger = ledger;
        this.views = views;
        this.runs = runs;
        this.sources = sources;
        this.scratchSpace = scratchSpace;
    }

    /**
     * Compares, and notes in the log of the run what was found.
     *
     * @param key the fields by which rows are found; empty for those that the job names
     */
    ConfirmationView confirm(long id, FileView export, List<String> key, String by) {
        if (views.show(id).balance().issued() == 0) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.RUN_STATE,
                    "Run " + id + " has issued nothing.",
                    "What a run has written to records is compared by run verify."));
        }
        WrittenRun run = views.written(id);
        Write write = run.writes().writes().getFirst();
        List<String> foundBy = key.isEmpty() ? write.key() : key;
        try (ScratchFolder scratch = scratchSpace.create();
                SourceReader reader = opened(export, scratch)) {
            requireKey(write, foundBy, reader.fields(), export);
            Confirmation.Result found = new Confirmation(write.fields(), foundBy, reader.fields())
                    .compare(
                            ledger.chunks(id, LedgerStage.WRITTEN),
                            run.writes(),
                            0,
                            reader,
                            scratch.path(),
                            RowWatch::row);
            runs.noteInLog(
                    id,
                    by + " compares it with " + export.name() + ": " + found.confirmed() + " confirmed, "
                            + found.differ() + " differ, " + found.missing() + " missing.");
            Set<String> masked =
                    run.sensitive().isEmpty() ? Set.of() : run.sensitive().getFirst();
            return new ConfirmationView(
                    id,
                    export.name(),
                    found.issued(),
                    found.confirmed(),
                    found.differ(),
                    found.missing(),
                    found.others(),
                    found.differences().stream()
                            .map(difference -> view(write, difference, masked))
                            .toList());
        }
    }

    private SourceReader opened(FileView file, ScratchFolder scratch) {
        SourcePart part = sources.parts(List.of(file), Optional.empty(), FormatOptions.NONE, scratch.path())
                .getFirst();
        return sources.open(part, List.of(), scratch.path());
    }

    private static void requireKey(Write write, List<String> key, List<SourceField> fields, FileView export) {
        if (key.isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.KEY_MISSING,
                    "The job names no key, so nobody can tell which row of " + export.name() + " is which.",
                    "Say it with --key: one or several of " + String.join(", ", write.fields()) + "."));
        }
        List<String> lacking = Confirmation.lacking(write.fields(), key, fields);
        if (!lacking.isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FIELD_UNKNOWN,
                    export.name() + " and what was issued don't both have " + String.join(", ", lacking) + ".",
                    "Fields are found by their names. The export has: "
                            + String.join(
                                    ", ", fields.stream().map(SourceField::name).toList())
                            + "; issued were: " + String.join(", ", write.fields()) + "."));
        }
    }

    private static VerificationView.Difference view(
            Write write, Confirmation.Difference difference, Set<String> masked) {
        return new VerificationView.Difference(
                difference.line().number(),
                write.name(),
                difference.key(),
                difference.found().name().toLowerCase(Locale.ROOT),
                difference.fields().stream()
                        .map(field -> new VerificationView.Field(
                                field.field(),
                                shown(field.field(), field.issued(), masked),
                                shown(field.field(), field.there(), masked)))
                        .toList());
    }

    private static @Nullable String shown(String field, @Nullable String value, Set<String> masked) {
        return Masked.value(value, masked.contains(field));
    }
}
