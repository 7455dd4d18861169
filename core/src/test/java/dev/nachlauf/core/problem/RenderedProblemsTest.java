package dev.nachlauf.core.problem;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Shows rendered findings as people see them, so that they are read: every word here was looked at. */
class RenderedProblemsTest {
    private static final RecordDescription HUT = new RecordDescription(
            "hut",
            true,
            List.of(
                    FieldDescription.requiredField("hut_code", Kind.TEXT),
                    FieldDescription.requiredField("name", Kind.TEXT),
                    FieldDescription.plain("beds", Kind.INTEGER),
                    FieldDescription.plain("bed_class", Kind.TEXT).closed("the database computes it")),
            List.of(new RecordDescription.UniqueKey("hut_pkey", List.of("hut_code"), true)),
            List.of());

    private static String rendered(String job) {
        List<Problem> problems = new ArrayList<>();
        JobFile.read(new SourceText("hut-list.yaml", job), problems)
                .ifPresent(read -> Planner.plan(
                        read,
                        Surroundings.NONE,
                        Huts.columns(List.of("Hut no.", "name", "beds")),
                        (connection, records, written, found) -> Optional.of(HUT),
                        problems));
        return problems.stream().map(ProblemText::render).collect(Collectors.joining("\n"));
    }

    private static String job(String steps, String map) {
        return """
                nachlauf: 1
                job: hut-list
                read: { connection: inbox, file: list.csv }
                %swrite:
                  connection: register
                  records: hut
                  action: upsert
                  key: [hut_code]
                  map:
                %s""".formatted(steps, map.indent(4));
    }

    @Test
    void aTrapOfYamlIsToldWithTheSafeSpelling() {
        assertThat(rendered(job("", "hut_code: \"Hut no.\" || 'x'\n"))).isEqualTo("""
                        hut-list.yaml, line 10, column 15: The value starts with a quote, so YAML takes the quoted part for the whole of it. [yaml-trap]
                              hut_code: "Hut no." || 'x'
                                        ^^^^^^^^^^^^^^^^
                          Put parentheses around the formula: ("Hut no." || 'x')""");
    }

    @Test
    void unknownNamesAreFollowedByTheNearestOnes() {
        assertThat(rendered(job("steps:\n  - where: bed > '0'\n", """
                        hut_code: uper("Hut no.")
                        nam: name
                        bed_class: name
                        """))).isEqualTo("""
                        hut-list.yaml, line 5, column 12: There is no field bed here. [field-unknown]
                            - where: bed > '0'
                                     ^^^
                          Did you mean beds?
                        hut-list.yaml, line 12, column 15: There is no function uper. [function-unknown]
                              hut_code: uper("Hut no.")
                                        ^^^^
                          Did you mean upper?
                        hut-list.yaml, line 13, column 5: hut has no field nam. [target-field-unknown]
                              nam: name
                              ^^^
                          Did you mean name?
                        hut-list.yaml, line 14, column 5: The field bed_class can't be written: the database computes it. [target-field-read-only]
                              bed_class: name
                              ^^^^^^^^^
                          Take it out of the map.
                        hut-list.yaml, line 8, column 12: The field name of hut is required, but not mapped. [target-field-required]
                            records: hut
                                     ^^^
                          Map it: new records can't be inserted without it.""");
    }

    @Test
    void unknownKeysOfTheJobAreFollowedByTheNearestOnes() {
        assertThat(rendered("nachlauf: 1\njob: hut-list\nstep: []\n")).isEqualTo("""
                        hut-list.yaml, line 1, column 1: The key read is missing in the document. [key-missing]
                          nachlauf: 1
                          ^
                          Add read: …
                        hut-list.yaml, line 1, column 1: The key write is missing in the document. [key-missing]
                          nachlauf: 1
                          ^
                          Add write: …
                        hut-list.yaml, line 3, column 1: The key step has no meaning here. [key-unknown]
                          step: []
                          ^^^^
                          Did you mean steps?""");
    }

    @Test
    void typesAreExplained() {
        assertThat(rendered(job("", "hut_code: name + 1\nname: name\n"))).isEqualTo("""
                        hut-list.yaml, line 10, column 20: + needs numbers on both sides, but one is text. [type-mismatch]
                              hut_code: name + 1
                                             ^
                          Text is joined with ||; declare the field as a number under read, or use cast(… as decimal).""");
    }

    @Test
    void everyCodeIsWrittenInKebabCaseOnce() {
        assertThat(ProblemCode.values())
                .extracting(ProblemCode::id)
                .doesNotHaveDuplicates()
                .allMatch(id -> id.matches("[a-z]+(-[a-z]+)*"));
        assertThat(ProblemCode.of("key-repeated")).isEqualTo(ProblemCode.KEY_REPEATED);
    }
}
