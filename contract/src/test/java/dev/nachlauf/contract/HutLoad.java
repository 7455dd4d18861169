package dev.nachlauf.contract;

import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.run.LoadRun;
import dev.nachlauf.core.run.RunObserver;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.text.SourceText;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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

    private final Writes system;
    private final Kept kept;
    private final Path folder;

    HutLoad(Writes system, Kept kept, Path folder) {
        this.system = system;
        this.kept = kept;
        this.folder = folder;
    }

    private static List<SourceColumn> columns(String... names) {
        return Stream.of(names)
                .map(name -> SourceColumn.text(new SourceField(name, "")))
                .toList();
    }

    private static Plan plan(String limits) {
        JobDefinition job = JobFile.read(new SourceText("huts.yaml", JOB.formatted(limits)), new ArrayList<>())
                .orElseThrow();
        return Planner.plan(
                        job,
                        Surroundings.NONE,
                        columns("code", "name", "beds", "status"),
                        (connection, records, written, problems) -> Optional.of(MemoryTargetTest.HUT),
                        new ArrayList<>())
                .orElseThrow();
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
                        (finding, keys) -> List.of(),
                        folder)
                .execute();
    }

    private SourceBytes file(String text) {
        try {
            return SourceBytes.of("huts.csv", Files.writeString(folder.resolve("huts.csv"), text));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** So many huts, each with a code, a name and beds. */
    static String huts(int count) {
        StringBuilder csv = new StringBuilder("code;name;beds;status\n");
        IntStream.rangeClosed(1, count).forEach(n -> csv.append("H-%05d;Hut %d;%d;\n".formatted(n, n, n % 90)));
        return csv.toString();
    }
}
