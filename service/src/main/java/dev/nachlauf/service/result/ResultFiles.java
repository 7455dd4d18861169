package dev.nachlauf.service.result;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows;
import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.TableFormat;
import dev.nachlauf.core.system.TableFormat.Column;
import dev.nachlauf.core.system.TableFormat.TableWriter;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.ledger.Ledger;
import dev.nachlauf.service.reject.Rejects;
import dev.nachlauf.service.run.RunPreparation;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.service.run.Runs.Surroundings;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Writes the results of a run: into a copy of the file that was read, or into a table where that can't be. */
@Component
class ResultFiles {
    private static final String TABLE = "xlsx";
    private static final int WIDTH = 18;
    private static final int PAGE = 1_000;

    private final RunViews views;
    private final Runs runs;
    private final RunPreparation preparation;
    private final Sources sources;
    private final Ledger ledger;
    private final Rejects rejects;

    ResultFiles(
            RunViews views, Runs runs, RunPreparation preparation, Sources sources, Ledger ledger, Rejects rejects) {
        this.views = views;
        this.runs = runs;
        this.preparation = preparation;
        this.sources = sources;
        this.ledger = ledger;
        this.rejects = rejects;
    }

    /**
     * What somebody wants.
     *
     * @param name what the file is to be called; null for a name of ours
     * @param file which of the files that were read; null where there is only one
     * @param unmasked whether whoever asks may have the file as it came, with all that is in it
     * @param columns as {@link ResultColumn#of} takes them
     */
    record Wanted(
            long run,
            @Nullable String name,
            @Nullable String file,
            @Nullable String columns,
            boolean unmasked) {}

    /** A file with results. */
    record Written(Path path, String name) {}

    /**
     * Writes the results.
     *
     * @param scratch a folder for it and for what is needed on the way
     * @throws CannotGoOn where the run has none yet, or it is not clear which file is meant
     */
    Written write(Wanted wanted, Path scratch) throws IOException {
        RunView run = views.show(wanted.run());
        requireResults(run);
        List<SourcePart> parts = chosen(preparation.parts(run.id()), wanted, scratch);
        Surroundings surroundings = runs.surroundings(run.id());
        List<ResultColumn> columns = ResultColumn.of(wanted.columns(), surroundings.header());
        SourcePart part = parts.getFirst();
        boolean own = parts.size() == 1
                && sources.format(part.format()) instanceof NotesRows
                && ending(wanted.name() == null ? part.member() : wanted.name()).equals(ending(part.member()));
        String name = wanted.name() != null
                ? wanted.name()
                : "results-of-run-" + run.id() + "." + (own ? ending(part.member()) : TABLE);
        if (!own && !ending(name).equals(TABLE)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "Results of " + part.member() + " can't be written as " + name + ".",
                    "Give it a name that ends in "
                            + (sources.format(part.format()) instanceof NotesRows
                                    ? "." + ending(part.member()) + " or "
                                    : "")
                            + "." + TABLE + "."));
        }
        if (own && !surroundings.masked().columns().isEmpty() && !wanted.unmasked()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.ROLE_LACKING,
                    "The file holds columns that are kept from you.",
                    "Give it a name that ends in ." + TABLE + ": there they are masked."));
        }
        Path path = scratch.resolve("results");
        try (NotesOnDisk notes = notes(run, !own, columns, scratch);
                OutputStream out = new BufferedOutputStream(Files.newOutputStream(path))) {
            if (own) {
                copy(part, columns, notes, scratch, out);
            } else {
                table(parts, surroundings, columns, notes, scratch, out);
            }
        }
        return new Written(path, name);
    }

    private static void requireResults(RunView run) {
        boolean held = run.state().equals("held");
        if (!run.ended() && !held) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.RUN_STATE,
                    "Run " + run.id() + " is " + run.state() + ".",
                    "Wait until it has ended or is held; then its results are known."));
        }
        Long other = run.undoes() != null ? run.undoes() : run.choice().resubmits();
        if (other != null) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.RUN_STATE,
                    "Run " + run.id() + " has read no file of its own.",
                    "Ask for the results of run " + other + "."));
        }
    }

    /** The parts that are meant: one file, or, where it isn't a file that is given back, all of them. */
    private List<SourcePart> chosen(List<SourcePart> parts, Wanted wanted, Path scratch) {
        if (parts.isEmpty()) {
            throw new CannotGoOn(Problem.of(ProblemCode.RUN_STATE, "Run " + wanted.run() + " has read no source.", ""));
        }
        List<SourcePart> found = parts.stream()
                .filter(part -> wanted.file() == null || part.member().equals(wanted.file()))
                .toList();
        boolean table = wanted.name() != null && ending(wanted.name()).equals(TABLE) && wanted.file() == null;
        if (found.size() == 1 || table && !parts.getFirst().format().equals(TABLE)) {
            return found;
        }
        throw new CannotGoOn(Problem.of(
                ProblemCode.REQUEST_MALFORMED,
                found.isEmpty()
                        ? "Run " + wanted.run() + " has read no file " + wanted.file() + "."
                        : "Run " + wanted.run() + " has read " + parts.size() + " files.",
                "Name one of them: " + parts.stream().map(SourcePart::member).collect(Collectors.joining(", ")) + "."));
    }

    private Set<String> endings(SourcePart part) {
        Set<String> endings = new TreeSet<>(Set.of("." + TABLE));
        if (sources.format(part.format()) instanceof NotesRows) {
            endings.add("." + ending(part.member()));
        }
        return endings;
    }

    private static String ending(String name) {
        return name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    }

    /** @param numbered whether rows are found by their numbers, instead of by file, sheet and line */
    private NotesOnDisk notes(RunView run, boolean numbered, List<ResultColumn> columns, Path scratch)
            throws IOException {
        NotesOnDisk notes = new NotesOnDisk(scratch, columns.size());
        try (RowResults results = new RowResults(scratch)) {
            ledger.each(views.ledger(run.id()), results::add);
            String cursor = null;
            do {
                Page<RejectView> page = rejects.list(run.id(), null, true, cursor, PAGE);
                page.items().forEach(results::add);
                cursor = page.next();
            } while (cursor != null);
            results.each((row, result) -> {
                RowResult.Line first = result.lines().getFirst();
                List<String> cells = columns.stream()
                        .map(column -> result.cell(column.what(), run.id()))
                        .toList();
                notes.add(numbered ? "" : first.source(), numbered ? row : first.line(), cells);
            });
        }
        return notes;
    }

    private void copy(SourcePart part, List<ResultColumn> columns, NotesOnDisk notes, Path scratch, OutputStream out)
            throws IOException {
        SourceBytes bytes = sources.bytes(part, scratch);
        FormatOptions options = new FormatOptions(part.options(), List.of());
        NotesRows format = (NotesRows) sources.format(part.format());
        List<String> heads = columns.stream().map(ResultColumn::head).toList();
        format.copy(bytes, options, heads, notes.of(bytes.file()), out);
    }

    private void table(
            List<SourcePart> parts,
            Surroundings run,
            List<ResultColumn> columns,
            NotesOnDisk notes,
            Path scratch,
            OutputStream out)
            throws IOException {
        List<Column> heads = new ArrayList<>();
        run.header().forEach(name -> heads.add(new Column(name, WIDTH)));
        columns.forEach(column -> heads.add(new Column(column.head(), WIDTH)));
        List<SourceField> fields =
                run.header().stream().map(name -> new SourceField(name, "")).toList();
        TableFormat format = sources.table(TABLE);
        try (SourceReader reader = sources.joined(parts, fields, List.of(), scratch);
                NotesOfPart found = notes.part("");
                TableWriter table = format.write(out, "Results", heads)) {
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                List<@Nullable String> raw =
                        Arrays.stream(row.cells()).map(Values::text).collect(Collectors.toList());
                List<@Nullable String> cells = new ArrayList<>(run.masked().cells(run.header(), raw));
                while (cells.size() > fields.size()) {
                    cells.removeLast();
                }
                while (cells.size() < fields.size()) {
                    cells.add(null);
                }
                List<String> noted = found.at(row.number());
                cells.addAll(noted == null ? List.of() : noted);
                table.row(cells);
            }
        }
    }
}
