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
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
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
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Writes the results of a run: into a copy of the file that was read, or into a table where that can't be. */
@Component
class ResultFiles {
    private static final String TABLE = "xlsx";
    /** The formats of workbooks, each with the ending of its name. */
    private static final Set<String> WORKBOOKS = Set.of(TABLE, "ods");

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
        List<SourcePart> all = preparation.parts(run.id());
        List<SourcePart> parts = chosen(all, wanted);
        Surroundings surroundings = runs.surroundings(run.id());
        SourcePart part = parts.getFirst();
        boolean given = parts.size() == 1 && sources.format(part.format()) instanceof NotesRows;
        String name = Objects.requireNonNullElseGet(
                wanted.name(), () -> "results-of-run-" + run.id() + "." + (given ? ending(part.member()) : TABLE));
        boolean own = given && canBe(name, part);
        if (!own && !isTable(name)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "Results of " + part.member() + " can't be written as " + name + ".",
                    "Give it a name that ends in "
                            + (given && !isTable(part.member()) ? "." + ending(part.member()) + " or " : "")
                            + "." + TABLE + "."));
        }
        if (own && surroundings.masked().hides() && !wanted.unmasked()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.ROLE_LACKING,
                    "The file holds columns that are kept from you.",
                    "Give it a name that ends in ." + TABLE + ": there they are masked."));
        }
        List<ResultColumn> columns = ResultColumn.of(wanted.columns(), surroundings.header());
        Path path = scratch.resolve("results");
        try (RowResults results = results(run, scratch);
                OutputStream out = new BufferedOutputStream(Files.newOutputStream(path))) {
            Rows rows = new Rows(run, all, surroundings.header(), results, columns, scratch);
            if (own) {
                copy(part, rows, scratch, out);
            } else {
                table(parts, surroundings, rows, scratch, out);
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
    private static List<SourcePart> chosen(List<SourcePart> parts, Wanted wanted) {
        if (parts.isEmpty()) {
            throw new CannotGoOn(Problem.of(ProblemCode.RUN_STATE, "Run " + wanted.run() + " has read no source.", ""));
        }
        List<SourcePart> found = parts.stream()
                .filter(part -> wanted.file() == null || part.member().equals(wanted.file()))
                .toList();
        boolean table = wanted.name() != null && isTable(wanted.name()) && wanted.file() == null;
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

    /** Whether a copy of a file can have a name: one that ends like a workbook's has to be such a workbook. */
    private static boolean canBe(String name, SourcePart part) {
        String ending = ending(name);
        return WORKBOOKS.contains(part.format())
                ? ending.equals(part.format()) || ending.equals(ending(part.member()))
                : !WORKBOOKS.contains(ending);
    }

    private static boolean isTable(String name) {
        return ending(name).equals(TABLE);
    }

    private static String ending(String name) {
        return name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    }

    private RowResults results(RunView run, Path scratch) {
        RowResults results = new RowResults(scratch);
        ledger.each(views.ledger(run.id()), results::add);
        String cursor = null;
        do {
            Page<RejectView> page = rejects.list(run.id(), null, true, cursor, PAGE);
            page.items().forEach(results::add);
            cursor = page.next();
        } while (cursor != null);
        return results;
    }

    /**
     * The rows of a run's source with what stands beside them.
     *
     * @param parts all of them, for rows are numbered through
     */
    private record Rows(
            RunView run,
            List<SourcePart> parts,
            List<String> header,
            RowResults results,
            List<ResultColumn> columns,
            Path scratch) {
        List<String> beside(SourceRow row) {
            // what a finished plan has no line for went into another row; what a run didn't come to has none either
            boolean whole = run.state().equals("finished")
                    || run.planned() && run.state().equals("held");
            RowResult result = results.of(row.number(), whole ? "merged" : "unreached");
            return columns.stream()
                    .map(column -> result.cell(column.what(), run.id()))
                    .toList();
        }

        List<SourceField> fields() {
            return header.stream().map(name -> new SourceField(name, "")).toList();
        }
    }

    private interface Use {
        void of(SourceRow row, List<String> beside) throws IOException;
    }

    /** Gives the rows in order, as far as the source can be read; a run came no further either. */
    private void each(Rows rows, Use use) throws IOException {
        try (SourceReader reader = sources.joined(rows.parts, rows.fields(), List.of(), rows.scratch)) {
            for (SourceRow row = next(reader); row != null; row = next(reader)) {
                use.of(row, rows.beside(row));
            }
        }
    }

    private static @Nullable SourceRow next(SourceReader reader) {
        try {
            return reader.next();
        } catch (CannotGoOn e) {
            return null;
        }
    }

    private void copy(SourcePart part, Rows rows, Path scratch, OutputStream out) throws IOException {
        SourceBytes bytes = sources.bytes(part, scratch);
        try (NotesOnDisk notes = new NotesOnDisk(scratch, rows.columns.size())) {
            each(rows, (row, beside) -> {
                if (row.origin().file().equals(bytes.file())) {
                    notes.add(row.origin().sheet(), row.origin().line(), beside);
                }
            });
            NotesRows format = (NotesRows) sources.format(part.format());
            List<String> heads = rows.columns.stream().map(ResultColumn::head).toList();
            format.copy(bytes, new FormatOptions(part.options(), List.of()), heads, notes::part, out);
        }
    }

    private void table(List<SourcePart> parts, Surroundings run, Rows rows, Path scratch, OutputStream out)
            throws IOException {
        List<Column> heads = new ArrayList<>();
        rows.header.forEach(name -> heads.add(new Column(name, WIDTH)));
        rows.columns.forEach(column -> heads.add(new Column(column.head(), WIDTH)));
        Set<String> files =
                parts.stream().map(part -> sources.bytes(part, scratch).file()).collect(Collectors.toSet());
        try (TableWriter table = sources.table(TABLE).write(out, "Results", heads)) {
            each(rows, (row, beside) -> {
                if (parts.equals(rows.parts) || files.contains(row.origin().file())) {
                    table.row(cells(row, run, beside));
                }
            });
        }
    }

    private static List<@Nullable String> cells(SourceRow row, Surroundings run, List<String> beside) {
        List<@Nullable String> raw =
                Arrays.stream(row.cells()).map(Values::text).collect(Collectors.toCollection(ArrayList::new));
        List<@Nullable String> shown = run.masked().cells(run.header(), raw);
        List<@Nullable String> cells = new ArrayList<>();
        for (int column = 0; column < run.header().size(); column++) {
            cells.add(column < shown.size() ? shown.get(column) : null);
        }
        cells.addAll(beside);
        return cells;
    }
}
