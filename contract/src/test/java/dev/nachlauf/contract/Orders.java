package dev.nachlauf.contract;

import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.run.LoadRun;
import dev.nachlauf.core.run.ReviewedRun;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.LongPredicate;
import java.util.stream.Stream;

/** Orders with lines, two record types, and a job that loads them into a system in memory. */
final class Orders {
    static final RecordDescription ORDER = new RecordDescription(
            "order",
            true,
            List.of(
                    FieldDescription.plain("order_id", Kind.INTEGER),
                    FieldDescription.requiredField("order_no", Kind.TEXT),
                    FieldDescription.plain("hut", Kind.TEXT)),
            List.of(new UniqueKey("id", List.of("order_id"), true), new UniqueKey("no", List.of("order_no"), false)),
            List.of());
    static final RecordDescription LINE = new RecordDescription(
            "line",
            true,
            List.of(
                    FieldDescription.requiredField("order_id", Kind.INTEGER),
                    FieldDescription.requiredField("line_no", Kind.INTEGER),
                    FieldDescription.plain("article", Kind.TEXT)),
            List.of(new UniqueKey("key", List.of("order_id", "line_no"), false)),
            List.of());
    private static final String JOB = """
            nachlauf: 1
            job: orders
            read:
              connection: inbox
              file: orders.csv
              fields: { line: { is: integer } }
            steps:
              - group: order
                by: [no]
            %swrite:
              - name: order
                connection: register
                records: order
                action: upsert
                once-per: order
                key: [order_no]
                map: { order_no: no, hut: hut }
              - name: line
                connection: register
                records: line
                action: upsert
                key: [order_id, line_no]
                map: { order_id: order.order_id, line_no: line, article: article }
            """;

    private final Writes memory;
    private String job = JOB;
    private Writes lines;
    private final Kept kept;
    private final Path folder;

    Orders(Writes memory, Kept kept, Path folder) {
        this.memory = memory;
        this.lines = memory;
        this.kept = kept;
        this.folder = folder;
    }

    /** The same job, of which the lines use nothing of their order. */
    Orders apart() {
        job = JOB.replace("order_id: order.order_id", "order_id: line");
        return this;
    }

    /** The same job, of which a line that is rejected leaves its order alone. */
    Orders linesAlone() {
        job = job.replace("by: [no]", "by: [no]\n    line-fails: alone");
        return this;
    }

    /** The same job, which removes lines that their order no longer has. */
    Orders replacingLines() {
        job = JOB.replace(
                "action: upsert\n    key: [order_id, line_no]",
                "action: replace\n    within: [order_id]\n    key: [order_id, line_no]");
        return this;
    }

    /** The same job, of which the lines go to another system. */
    Orders linesTo(Writes other) {
        job = job.replace("register\n    records: line", "shop\n    records: line");
        lines = other;
        return this;
    }

    private Plan plan(String steps) {
        List<Problem> problems = new ArrayList<>();
        List<SourceColumn> columns = Stream.of("no", "hut", "line", "article")
                .map(name -> SourceColumn.text(new SourceField(name, "")))
                .toList();
        return JobFile.read(new SourceText("orders.yaml", job.formatted(steps.indent(2))), problems)
                .flatMap(job -> Planner.plan(
                        job,
                        Surroundings.NONE,
                        columns,
                        (connection, records, written, found) ->
                                (connection.value().equals("shop") ? lines : memory).describe(records.value()),
                        problems))
                .orElseThrow(() -> new AssertionError(problems));
    }

    /**
     * Loads a file.
     *
     * @param steps what stands below the grouping of lines; may be empty
     */
    RunResult load(String csv, String steps, int batchRows) throws IOException {
        return load(csv, steps, batchRows, new Quiet());
    }

    /** Loads a file under the eyes of an observer. */
    RunResult load(String csv, String steps, int batchRows, RunObserver observer) throws IOException {
        return load(csv, steps, new RunPolicy(false, batchRows, 100_000), observer);
    }

    /** Loads a file in a run that is special. */
    RunResult load(String csv, String steps, RunPolicy policy, RunObserver observer) throws IOException {
        Path file = folder.resolve("orders.csv");
        Files.writeString(file, csv);
        return new LoadRun(
                        "1",
                        1,
                        plan(steps),
                        () -> new DelimitedFormat().read(SourceBytes.of("orders.csv", file), FormatOptions.NONE),
                        connection -> connection.equals("shop") ? lines : memory,
                        kept,
                        observer,
                        policy,
                        (finding, keys) ->
                                keys.stream().map(key -> Found.NOTHING).toList(),
                        folder)
                .execute();
    }

    /** Writes what was planned of the file that was loaded last, without some rows. */
    RunResult release(Kept planned, LongPredicate leftOut, RunPolicy policy, RunObserver observer) {
        Path file = folder.resolve("orders.csv");
        return new ReviewedRun(
                        "1",
                        1,
                        plan(""),
                        () -> new DelimitedFormat().read(SourceBytes.of("orders.csv", file), FormatOptions.NONE),
                        connection -> connection.equals("shop") ? lines : memory,
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
}
