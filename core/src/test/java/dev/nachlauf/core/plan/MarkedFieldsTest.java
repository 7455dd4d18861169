package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FieldMark;
import dev.nachlauf.core.system.Marks;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** What our own marks on a target's fields do to a plan. */
class MarkedFieldsTest {
    private static final FieldMark CLOSED = new FieldMark(false, false, "", "");
    private static final FieldMark SENSITIVE = new FieldMark(true, true, "", "");

    private final List<Problem> problems = new ArrayList<>();

    private Optional<Plan> plan(String steps, String map, Map<String, FieldMark> marks) {
        String job = "nachlauf: 1\njob: huts\nread: { connection: inbox, file: huts.csv }\n" + steps
                + "write:\n  connection: register\n  records: hut\n  action: upsert\n  key: [hut_code]\n  map:\n" + map;
        RecordDescription hut = new Marks(Map.of("hut", marks)).on(Huts.description());
        return Planner.plan(
                JobFile.read(new SourceText("huts.yaml", job), problems).orElseThrow(),
                Surroundings.NONE,
                Huts.columns(List.of("code", "name", "first", "last", "beds")),
                (connection, records, written, said) -> Optional.of(hut),
                problems);
    }

    @Test
    void aFieldThatIsNotToBeWrittenCantBeMapped() {
        assertThat(plan("", "    hut_code: code\n    name: name\n    beds: beds\n", Map.of("beds", CLOSED)))
                .isEmpty();
        assertThat(problems)
                .extracting(Problem::code, problem -> problem.sentence())
                .containsExactly(org.assertj.core.groups.Tuple.tuple(
                        ProblemCode.TARGET_FIELD_READ_ONLY,
                        "The field beds can't be written: the connection marks it as not to be written."));
    }

    @Test
    void aRequiredFieldThatIsNotToBeWrittenIsFoundBeforeRecordsAreInserted() {
        assertThat(plan("", "    hut_code: code\n", Map.of("name", CLOSED))).isEmpty();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.TARGET_FIELD_REQUIRED);
        assertThat(problems.getFirst().sentence()).contains("the connection marks it as not to be written");
    }

    @Test
    void sameNamesPassesOverWhatIsNotToBeWritten() {
        Plan plan = plan("", "    hut_code: code\n  same-names: true\n", Map.of("beds", CLOSED))
                .orElseThrow();
        assertThat(plan.main().fieldNames()).containsExactly("hut_code", "name");
    }

    @Test
    void aSensitiveKeyIsAWarning() {
        assertThat(plan("", "    hut_code: code\n    name: name\n", Map.of("hut_code", SENSITIVE)))
                .isPresent();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.KEY_SENSITIVE);
    }

    @Test
    void theColumnsBehindASensitiveFieldAreFoundThroughTheSteps() {
        Plan plan = plan(
                        "steps:\n  - set: { full: \"first || ' ' || last\", size: cast(beds as integer) }\n",
                        "    hut_code: code\n    name: full\n    beds: size\n",
                        Map.of("name", SENSITIVE))
                .orElseThrow();
        assertThat(SensitiveColumns.of(plan)).containsExactly("first", "last");
        assertThat(plan.main().sensitiveFields()).containsExactly("name");
    }

    @Test
    void theColumnsBehindASensitiveFieldAreFoundThroughWhatIsMadeOfManyRows() {
        Plan plan = plan(
                        "steps:\n  - combine: [code, last]\n    make: { most: max(first), rows: count() }\n",
                        "    hut_code: code\n    name: most || last\n    beds: rows\n",
                        Map.of("name", SENSITIVE))
                .orElseThrow();
        assertThat(SensitiveColumns.of(plan)).containsExactly("first", "last");
    }

    @Test
    void theColumnsBehindASensitiveFieldAreFoundThroughAnEarlierWrite() {
        String write = "connection: register\n    records: %s\n    action: upsert\n    key: [hut_code]\n    map:\n";
        String job = "nachlauf: 1\njob: huts\nread: { connection: inbox, file: huts.csv }\nwrite:\n  - name: open\n    "
                + write.formatted("plain") + "      hut_code: code\n      name: first\n  - name: kept\n    "
                + write.formatted("hut") + "      hut_code: code\n      name: open.name\n";
        RecordDescription kept = new Marks(Map.of("hut", Map.of("name", SENSITIVE))).on(Huts.description());
        Plan plan = Planner.plan(
                        JobFile.read(new SourceText("huts.yaml", job), problems).orElseThrow(),
                        Surroundings.NONE,
                        Huts.columns(List.of("code", "first")),
                        (connection, records, written, said) ->
                                Optional.of(records.value().equals("hut") ? kept : Huts.description()),
                        problems)
                .orElseThrow();
        assertThat(SensitiveColumns.of(plan)).containsExactly("first");
    }

    @Test
    void marksThatFitNoFieldAreNamed() {
        Marks marks = new Marks(Map.of("hut", Map.of("fone", SENSITIVE, "beds", CLOSED)));
        assertThat(marks.unknown(Huts.description())).containsExactly("fone");
        assertThat(marks.on(Huts.description()).field("beds").map(FieldDescription::readOnly))
                .contains(true);
    }
}
