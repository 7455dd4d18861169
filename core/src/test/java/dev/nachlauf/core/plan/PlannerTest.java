package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class PlannerTest {
    private static List<String> sentences(String stepsAndWrites) {
        List<Problem> problems = new ArrayList<>();
        String job = "nachlauf: 1\njob: huts\nread: { connection: inbox, file: huts.csv }\n" + stepsAndWrites;
        JobDefinition definition =
                JobFile.read(new SourceText("huts.yaml", job), problems).orElseThrow();
        Planner.plan(definition, Surroundings.NONE, Huts.columns(List.of("code", "name")), Huts.described(), problems);
        return problems.stream()
                .filter(problem -> problem.code() == ProblemCode.FIELD_UNKNOWN)
                .map(Problem::sentence)
                .toList();
    }

    private static final String WRITE =
            "write:\n  connection: register\n  records: hut\n  action: upsert\n  key: [hut_code]\n  map: { hut_code: code, name: name }\n";

    @Test
    void aNameThatIsMadeFurtherDownIsSaidToBeThere() {
        assertThat(sentences("steps:\n  - where: size > 3\n  - set:\n      twice: half || half\n      half: code\n"
                        + "  - set: { size: cast(code as integer) }\n" + WRITE))
                .containsExactly(
                        "size is made further down; a formula sees only what stands above it.",
                        "half is made further down; a formula sees only what stands above it.",
                        "half is made further down; a formula sees only what stands above it.");
    }

    @Test
    void whatAStepTookAwayIsNotFurtherDown() {
        assertThat(sentences("steps:\n  - set: { half: code }\n  - combine: [code]\n    make: { rows: count() }\n"
                        + "  - rule: half = 'x'\n    message: None\n" + WRITE.replace("name: name", "name: code")))
                .containsExactly("There is no field half here.");
    }

    @Test
    void theResultOfALaterWriteIsFurtherDown() {
        String first = WRITE.replace("write:\n  connection", "write:\n  - name: one\n    connection")
                .replace("\n  records", "\n    records")
                .replace("\n  action", "\n    action")
                .replace("\n  key", "\n    key")
                .replace("\n  map: { hut_code: code, name: name }", "\n    map: { hut_code: code, name: other.name }");
        String second = first.substring("write:\n".length())
                .replace("name: one", "name: other")
                .replace("other.name }", "one.name }");
        assertThat(sentences(first + second))
                .containsExactly("other.name is made further down; a formula sees only what stands above it.");
    }

    @Test
    void readsOnlyTheColumnsThatAreUsed() {
        Plan plan = Huts.plan();
        assertThat(plan.inputs())
                .extracting(Plan.Input::name)
                .containsExactly("Hut no.", "name", "beds", "price", "status");
        assertThat(plan.main().keyNames()).containsExactly("hut_code");
        assertThat(plan.main().keyIsUnique()).isTrue();
        assertThat(plan.slots())
                .as("five columns, three facts of the row, one step")
                .isEqualTo(9);
    }

    @Test
    void aMissingColumnIsSaidAtEveryPlaceThatNeedsIt() {
        List<Problem> problems = new ArrayList<>();
        assertThat(Planner.plan(
                        Huts.job(),
                        Surroundings.NONE,
                        Huts.columns(List.of("Hut no.", "name", "price", "status")),
                        Huts.described(),
                        problems))
                .isEmpty();
        assertThat(problems)
                .extracting(Problem::code)
                .containsExactly(ProblemCode.FIELD_UNKNOWN, ProblemCode.FIELD_UNKNOWN, ProblemCode.FIELD_UNKNOWN);
    }

    @Test
    void aKeyThatNothingKeepsUniqueIsAWarning() {
        RecordDescription hut = Huts.description();
        RecordDescription loose = new RecordDescription(hut.name(), true, hut.fields(), List.of(), List.of());
        List<Problem> problems = new ArrayList<>();
        assertThat(Planner.plan(
                        Huts.job(),
                        Surroundings.NONE,
                        Huts.columns(Huts.HEADER),
                        (connection, records, written, found) -> Optional.of(loose),
                        problems))
                .isPresent();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.KEY_NOT_UNIQUE);
        assertThat(problems.getFirst().sentence())
                .as("the job itself makes duplicates where its key changes")
                .contains("so does the job itself when a value of the key changes");
    }

    @Test
    void parametersHaveTheirDefaultsUnlessGiven() {
        List<Problem> problems = new ArrayList<>();
        assertThat(Parameters.resolve(Huts.job(), Map.of("sesaon", "1"), problems))
                .isEmpty();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.PARAMETER_UNKNOWN);
    }

    @Test
    void whatIsFixedOnceARecordIsThereIsWrittenToNewOnesOnly() {
        RecordDescription hut = Huts.description();
        RecordDescription fixed = new RecordDescription(
                hut.name(),
                true,
                hut.fields().stream()
                        .map(field -> field.with(field.traits().fixed()))
                        .toList(),
                hut.uniqueKeys(),
                hut.references());
        List<Problem> problems = new ArrayList<>();
        JobDefinition job = JobFile.read(
                        new SourceText(
                                "huts.yaml",
                                "nachlauf: 1\njob: huts\nread: { connection: inbox, file: huts.csv }\n" + WRITE),
                        problems)
                .orElseThrow();
        Plan plan = Planner.plan(
                        job,
                        Surroundings.NONE,
                        Huts.columns(List.of("code", "name")),
                        (connection, records, written, found) -> Optional.of(fixed),
                        problems)
                .orElseThrow();
        assertThat(plan.main().fields())
                .extracting(output -> output.description().name() + " " + output.rule())
                .containsExactly("hut_code ALWAYS", "name ON_INSERT");
        assertThat(problems).singleElement().satisfies(problem -> {
            assertThat(problem.code()).isEqualTo(ProblemCode.TARGET_FIELD_FIXED);
            assertThat(problem.sentence())
                    .isEqualTo("The field name is fixed once a record is there; other values are left alone then.");
        });
    }
}
