package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.Error;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.job.JobSchema;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;
import tools.jackson.databind.JsonNode;

/** The published schema and the reader of job files know the same keys, and the demo's jobs fit. */
class JobSchemaTest {
    private static final JsonNode SCHEMA = ServiceClient.JSON.readTree(JobSchema.text());
    private static final Schema RULES = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
            .getSchema(JobSchema.text());
    private static final List<String> KINDS = SCHEMA.get("$defs")
            .get("step")
            .get("oneOf")
            .valueStream()
            .map(kind -> kind.get("$ref").asString().replace("#/$defs/", ""))
            .toList();
    private static final String WRITE =
            "{ connection: r, records: hut, action: upsert, key: [code], map: { code: code } }";
    private static final String HEAD = "nachlauf: 1\njob: huts\n";
    private static final String READ = "read: { connection: inbox, file: a.csv }\n";

    private static List<String> errors(String yaml) {
        Object document = new Load(LoadSettings.builder().build()).loadFromString(yaml);
        return RULES.validate(ServiceClient.JSON.valueToTree(document)).stream()
                .map(Error::toString)
                .toList();
    }

    private static String job(String more, String steps, String write) {
        return HEAD + more + READ + (steps.isEmpty() ? "" : "steps:\n  - " + steps + "\n") + "write: " + write + "\n";
    }

    static Stream<Path> demoJobs() throws IOException {
        try (Stream<Path> files = Files.list(Path.of("../demo-data/jobs"))) {
            return files.sorted().toList().stream();
        }
    }

    @ParameterizedTest
    @MethodSource("demoJobs")
    void theDemosJobsFit(Path file) throws IOException {
        assertThat(errors(Files.readString(file))).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "nachlauf: 1\njob: Huts\n",
                "nachlauf: 2\njob: huts\n",
                "nachlauf: 1\njob: huts\nlimit: { rejected: 5 }\n",
                "nachlauf: 1\njob: huts\nparameters: { season: { is: year } }\n"
            })
    void aJobThatTheReaderRefusesDoesNotFit(String head) {
        String document = head + READ + "write: " + WRITE + "\n";
        List<Problem> problems = new ArrayList<>();
        JobFile.read(new SourceText("huts.yaml", document), problems);
        assertThat(problems).isNotEmpty();
        assertThat(errors(document)).isNotEmpty();
        assertThat(errors(job("", "", WRITE))).isEmpty();
    }

    /**
     * For each part of the format, jobs that have a key there that means nothing: the reader then says which keys it
     * knows at that place.
     */
    static Stream<List<String>> parts() {
        String unknown = "zzzzzzzz: 1";
        return Stream.of(
                List.of("", job(unknown + "\n", "", WRITE)),
                List.of("parameter", job("parameters: { season: { is: integer, " + unknown + " } }\n", "", WRITE)),
                List.of(
                        "read",
                        HEAD + "read: { connection: i, file: a.csv, " + unknown + " }\nwrite: " + WRITE,
                        HEAD + "read: { connection: i, records: a, " + unknown + " }\nwrite: " + WRITE,
                        HEAD + "read: { connection: i, query: a, " + unknown + " }\nwrite: " + WRITE),
                List.of("field", read("fields: { a: { is: date, " + unknown + " } }")),
                List.of("trailer", read("trailer: { mark: T, " + unknown + " }")),
                List.of(
                        "keys",
                        HEAD + "parameters: { p: { is: text } }\nread: { connection: i, records: a, keys: { field: a,"
                                + " parameter: p, " + unknown + " } }\nwrite: " + WRITE),
                step("where", "where: a > 1", unknown),
                List.of(
                        "lookup",
                        job(
                                "",
                                "{ lookup: a, connection: r, records: a, match: { a: a }, bring: [a], " + unknown
                                        + " }",
                                WRITE),
                        job(
                                "",
                                "{ lookup: a, connection: r, file: a, match: { a: a }, bring: [a], " + unknown + " }",
                                WRITE)),
                step("rule", "rule: a > 1", unknown),
                step("whole-load", "whole-load: sum(a) > 1", unknown),
                List.of(
                        "duplicates",
                        job("", "{ duplicates: [a], " + unknown + " }", WRITE),
                        job("", "{ duplicates: [a], keep: sum, sum: [b], " + unknown + " }", WRITE)),
                step("combine", "combine: [a], make: { b: count() }", unknown),
                step("wide-to-long", "wide-to-long: [a], name: n, value: v", unknown),
                step("long-to-wide", "long-to-wide: [a], name: n, value: v, fields: { b: B }", unknown),
                step("group", "group: a, by: [b]", unknown),
                step("parents-first", "parents-first: [a], parent: [b]", unknown),
                step("set", "set: { a: b }", unknown),
                List.of(
                        "write",
                        job("", "", WRITE.replace("records: hut", "records: hut, " + unknown)),
                        job(
                                "",
                                "",
                                WRITE.replace("records: hut", "name: hut, records: hut, same-names: true, " + unknown)),
                        job("", "", issue(unknown))),
                List.of(
                        "issuedText",
                        job("", "", issue("text: { escape: line, each: a, " + unknown + " }")),
                        job(
                                "",
                                "",
                                issue("text: { escape: line, recorded: a, values: { code: a }, " + unknown + " }"))),
                List.of("total", job("totals: { sums: { nights: { of: a, " + unknown + " } } }\n", "", WRITE)),
                List.of(
                        "line",
                        job("", "", WRITE.replace("code: code }", "code: { value: code, " + unknown + " } }")),
                        job(
                                "",
                                "",
                                WRITE.replace("code: code }", "code: { find: hut, by: { a: a }, " + unknown + " } }"))),
                List.of("limits", job("limits: { rejected: 5, " + unknown + " }\n", "", WRITE)),
                List.of(
                        "example",
                        job("examples: [{ given: { a: 1 }, becomes: { code: x }, " + unknown + " }]\n", "", WRITE),
                        job("examples: [{ given: { a: 1 }, rejected: too-long, " + unknown + " }]\n", "", WRITE),
                        job("examples: [{ given: { a: 1 }, skipped: true, " + unknown + " }]\n", "", WRITE)));
    }

    private static String issue(String more) {
        return "{ connection: r, file: a.csv, action: issue, map: { code: code }, " + more + " }";
    }

    private static List<String> step(String name, String step, String unknown) {
        return List.of(name, job("", "{ " + step + ", " + unknown + " }", WRITE));
    }

    private static String read(String more) {
        return HEAD + "read: { connection: i, file: a.csv, " + more + " }\nwrite: " + WRITE;
    }

    @ParameterizedTest
    @MethodSource("parts")
    void schemaAndReaderKnowTheSameKeys(List<String> part) {
        String name = part.getFirst();
        JsonNode object = name.isEmpty() ? SCHEMA : SCHEMA.get("$defs").get(name);
        assertThat(object.get("additionalProperties").asBoolean()).isFalse();
        TreeSet<String> inSchema = new TreeSet<>(object.get("properties").propertyNames());
        TreeSet<String> read = new TreeSet<>();
        for (String document : part.subList(1, part.size())) {
            read.addAll(keysHere(document));
            assertThat(errors(document)).as(document).isNotEmpty();
            assertThat(errors(document.replaceAll(",? ?zzzzzzzz: 1", "")))
                    .as(document)
                    .isEmpty();
        }
        // which kind of step it is, the reader finds out by asking for each kind's key
        read.removeIf(key -> KINDS.contains(key) && !inSchema.contains(key));
        assertThat(inSchema).isEqualTo(read);
    }

    private static List<String> keysHere(String document) {
        List<Problem> problems = new ArrayList<>();
        JobFile.read(new SourceText("huts.yaml", document), problems);
        Problem unknown = problems.stream()
                .filter(problem -> problem.code() == ProblemCode.KEY_UNKNOWN)
                .findFirst()
                .orElseThrow(() -> new AssertionError(problems + " in " + document));
        assertThat(unknown.sentence()).contains("zzzzzzzz");
        String keys = unknown.remedy()
                .substring("Keys here: ".length(), unknown.remedy().length() - 1);
        return Arrays.asList(keys.split(", "));
    }

    @Test
    void theClientPrintsIt() {
        StringWriter out = new StringWriter();
        new Output(Output.Form.TABLE, new PrintWriter(out), new PrintWriter(out)).text(JobSchema.text());
        assertThat(ServiceClient.JSON.readTree(out.toString()).get("$id").asString())
                .isEqualTo("urn:nachlauf:job:1");
    }
}
