package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.formula.Scope.Surroundings;
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
import org.junit.jupiter.api.Test;

/** A run under way compares what it relies on of its target as text, over versions of the program too. */
class DescriptionsTest {
    private static final RecordDescription HUT = new RecordDescription(
            "hut",
            true,
            List.of(
                    FieldDescription.requiredField("code", Kind.TEXT).atMost(8),
                    FieldDescription.plain("beds", Kind.INTEGER).kept(),
                    FieldDescription.plain("notes", Kind.TEXT)),
            List.of(new UniqueKey("hut_code", List.of("code"), false)),
            List.of());

    @Test
    void keepTheFormThatTheyHad() {
        String job = "nachlauf: 1\njob: huts\nread: { connection: inbox, file: huts.csv }\nwrite:\n"
                + "  connection: register\n  records: hut\n  action: upsert\n  key: [code]\n"
                + "  map: { code: code, beds: beds }\n";
        List<Problem> problems = new ArrayList<>();
        List<SourceColumn> columns =
                List.of(SourceColumn.text(new SourceField("code", "")), SourceColumn.text(new SourceField("beds", "")));
        Plan plan = JobFile.read(new SourceText("huts.yaml", job), problems)
                .flatMap(read -> Planner.plan(
                        read,
                        Surroundings.NONE,
                        columns,
                        (connection, records, written, found) -> Optional.of(HUT),
                        problems))
                .orElseThrow(() -> new AssertionError(problems));
        assertThat(Descriptions.relevant(plan))
                .isEqualTo("FieldDescription[name=code, kind=TEXT, typeName=text, length=OptionalInt[8],"
                        + " precision=OptionalInt.empty, scale=OptionalInt.empty, integerBytes=OptionalInt.empty,"
                        + " nullable=false, required=true, readOnly=false, readOnlyReason=, generated=false,"
                        + " allowed=[], sensitive=false]\n"
                        + "FieldDescription[name=beds, kind=INTEGER, typeName=integer, length=OptionalInt.empty,"
                        + " precision=OptionalInt.empty, scale=OptionalInt.empty, integerBytes=OptionalInt.empty,"
                        + " nullable=true, required=false, readOnly=false, readOnlyReason=, generated=false,"
                        + " allowed=[], sensitive=true]\n"
                        + "UniqueKey[name=hut_code, fields=[code], primary=false]\n");
    }
}
