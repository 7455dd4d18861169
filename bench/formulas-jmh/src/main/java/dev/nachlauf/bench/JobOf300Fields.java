package dev.nachlauf.bench;

import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;

/** A job that maps 300 fields, from its text to its plan: read, formulas checked and compiled, compared with the target. */
@State(Scope.Benchmark)
public class JobOf300Fields {
    private static final int FIELDS = 300;
    private static final List<String> FORMULAS = List.of(
            "upper(trim(%s))",
            "(cast(parse_date(%s, 'dd.MM.yyyy') as text))",
            "case when %s = 'closed' then 'C' when %<s = 'open' then 'O' else '?' end",
            "%s || ' ' || %<s");

    private final SourceText job;
    private final List<SourceColumn> columns = new ArrayList<>();
    private final RecordDescription target;

    /** Writes the job and describes its source and its target. */
    public JobOf300Fields() {
        StringBuilder text = new StringBuilder("nachlauf: 1\njob: wide\nread: { connection: inbox, file: wide.csv }\n"
                + "write:\n  connection: register\n  records: wide\n  action: upsert\n  key: [f0]\n  map:\n");
        List<FieldDescription> fields = new ArrayList<>();
        for (int i = 0; i < FIELDS; i++) {
            String name = "f" + i;
            columns.add(SourceColumn.text(new SourceField(name, "")));
            fields.add(FieldDescription.plain(name, Kind.TEXT).atMost(200));
            text.append("    %s: >-%n      %s%n".formatted(name, FORMULAS.get(i % FORMULAS.size()).formatted(name)));
        }
        job = new SourceText("wide.yaml", text.toString());
        target = new RecordDescription(
                "wide", true, fields, List.of(new UniqueKey("wide_f0", List.of("f0"), true)), List.of());
    }

    /** All of it, as {@code job check} does it once it has looked at source and target. */
    @Benchmark
    public Plan check() {
        List<Problem> problems = new ArrayList<>();
        Optional<JobDefinition> definition = JobFile.read(job, problems);
        return definition
                .flatMap(found -> Planner.plan(
                        found,
                        Surroundings.NONE,
                        columns,
                        (connection, records, written, said) -> Optional.of(target),
                        problems))
                .orElseThrow(() -> new IllegalStateException(problems.toString()));
    }
}
