package dev.nachlauf.contract;

import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.load.ControlTotal;
import dev.nachlauf.core.plan.Choice;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.RowRanges;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.run.ControlSums;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.run.LoadRun;
import dev.nachlauf.core.run.ReviewedRun;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.text.SourceText;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongPredicate;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** A job that loads huts from a CSV file into a system. */
final class HutLoad {
    private static final String JOB = """
            nachlauf: 1
            job: huts
            read: { connection: inbox, file: huts.csv }
            steps:
              - where: coalesce(status, '') <> 'closed'
            write:
              connection: register
              records: hut
              action: upsert
              key: [hut_code]
              map: { hut_code: code, name: name, beds: beds }
            %s""";

    private String job = JOB;
    private Choice choice = Choice.ALL;
    private final Writes system;
    private final Kept kept;
    private final Path folder;

    HutLoad(Writes system, Kept kept, Path folder) {
        this.system = system;
        this.kept = kept;
        this.folder = folder;
    }

    /** Another job over the same files. */
    HutLoad of(String other) {
        job = other;
        return this;
    }

    /** The same over some rows of the files. */
    HutLoad about(String rows, String where) {
        choice = new Choice(
                rows.isEmpty() ? Optional.empty() : Optional.of(RowRanges.of(rows)),
                where.isEmpty() ? Optional.empty() : Optional.of(FormulaSource.of(where)));
        return this;
    }

    private static List<SourceColumn> columns(String... names) {
        return Stream.of(names)
                .map(name -> SourceColumn.text(new SourceField(name, "")))
                .toList();
    }

    private Plan plan(String limits) {
        List<Problem> problems = new ArrayList<>();
        return JobFile.read(new SourceText("huts.yaml", job.formatted(limits)), problems)
                .flatMap(read -> Planner.plan(
                        read,
                        Surroundings.NONE,
                        columns("code", "name", "beds", "status"),
                        choice,
                        (connection, records, written, found) -> system.describe(records.value()),
                        problems))
                .orElseThrow(() -> new AssertionError(problems));
    }

    /** Runs the job over a file. */
    RunResult run(String csv, String limits, RunPolicy policy, RunObserver observer) {
        return run(() -> csv, limits, policy, observer);
    }

    /** @param text what the file holds each time it is opened */
    RunResult run(Supplier<String> text, String limits, RunPolicy policy, RunObserver observer) {
        return new LoadRun(
                        "1",
                        1,
                        plan(limits),
                        () -> new DelimitedFormat().read(file(text.get()), FormatOptions.NONE),
                        connection -> system,
                        kept,
                        observer,
                        policy,
                        this::find,
                        folder)
                .execute();
    }

    /** What the figures of a run add up to that has read a file; without what is stored where nothing was written. */
    List<ControlTotal> totals(String csv, String totals, boolean written) {
        return ControlSums.of(
                plan(totals),
                () -> new DelimitedFormat().read(file(csv), FormatOptions.NONE),
                kept,
                connection -> system,
                written,
                folder,
                new Quiet());
    }

    /** Writes what was planned of a file, without some rows. */
    RunResult release(String csv, Kept planned, LongPredicate leftOut, RunPolicy policy, RunObserver observer) {
        return release(() -> csv, planned, leftOut, policy, observer);
    }

    /** @param text what the file holds each time it is opened */
    RunResult release(
            Supplier<String> text, Kept planned, LongPredicate leftOut, RunPolicy policy, RunObserver observer) {
        return new ReviewedRun(
                        "1",
                        1,
                        plan(""),
                        () -> new DelimitedFormat().read(file(text.get()), FormatOptions.NONE),
                        connection -> system,
                        planned,
                        kept,
                        leftOut,
                        observer,
                        policy,
                        folder)
                .execute();
    }

    /** The writes as a ledger knows them. */
    LedgerWrites writes() {
        return LedgerWrites.of(plan(""));
    }

    private List<Found> find(Finding finding, List<Object[]> keys) {
        return ((LooksUp) system)
                .lookUp(finding.records(), finding.keyFields(), finding.wanted(), keys).stream()
                        .map(match -> new Found(match.count(), match.values()))
                        .toList();
    }

    private SourceBytes file(String text) {
        try {
            // a file of its own each time: two writers may read at once
            Path file = Files.createTempFile(folder, "huts", ".csv");
            return SourceBytes.of("huts.csv", Files.writeString(file, text));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A hut as it stands in a system. */
    static Map<String, Object> hut(String code, String name, long beds) {
        Map<String, Object> values = new LinkedHashMap<>();
        values.put("hut_code", code);
        values.put("name", name);
        values.put("beds", beds);
        return values;
    }

    /** So many huts, each with a code, a name and beds. */
    static String huts(int count) {
        StringBuilder csv = new StringBuilder("code;name;beds;status\n");
        IntStream.rangeClosed(1, count).forEach(n -> csv.append("H-%05d;Hut %d;%d;\n".formatted(n, n, n % 90)));
        return csv.toString();
    }
}
