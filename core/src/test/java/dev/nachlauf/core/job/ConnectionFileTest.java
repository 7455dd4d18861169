package dev.nachlauf.core.job;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldMark;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class ConnectionFileTest {
    private final List<Problem> problems = new ArrayList<>();

    private Optional<ConnectionDefinition> read(String marks) {
        String file = "nachlauf: 1\nconnection: register\ntype: postgresql\nsettings: { port: 5432 }\n";
        return ConnectionFile.read(new SourceText("register.yaml", file + marks), problems);
    }

    @Test
    void aSecretIsNamedByItsPlace() {
        ConnectionDefinition definition = ConnectionFile.read(new SourceText("register.yaml", """
                                nachlauf: 1
                                connection: register
                                type: postgresql
                                settings:
                                  password: { env: NACHLAUF_SECRET_REGISTER }
                                  certificate: { file: /etc/register.pem }
                                """), problems)
                .orElseThrow();
        assertThat(definition.settings())
                .containsEntry("password", "env:NACHLAUF_SECRET_REGISTER")
                .containsEntry("certificate", "file:/etc/register.pem");
        assertThat(definition.title())
                .as("without a title the name stands for it")
                .isEqualTo("register");
    }

    @Test
    void fieldsCarryMarks() {
        ConnectionDefinition definition = read("""
                        marks:
                          hut:
                            hut_id: { written: false, help: Numbered by itself }
                            phone: { sensitive: true, label: Telephone }
                        """).orElseThrow();
        assertThat(definition.marks().of("hut", "hut_id"))
                .isEqualTo(new FieldMark(false, false, "", "Numbered by itself"));
        assertThat(definition.marks().of("hut", "phone")).isEqualTo(new FieldMark(true, true, "Telephone", ""));
        assertThat(definition.marks().of("hut", "beds")).isEqualTo(FieldMark.NONE);
        assertThat(definition.marks().of("stay", "phone")).isEqualTo(FieldMark.NONE);
    }

    @Test
    void everyFaultOfTheMarksIsSaidWithItsPlace() {
        assertThat(read("marks:\n  hut:\n    phone: { sensitiv: true }\n    hut_id: { written: never }\n    beds: 3\n"))
                .isEmpty();
        assertThat(problems)
                .extracting(Problem::code)
                .containsExactlyInAnyOrder(
                        ProblemCode.KEY_UNKNOWN, ProblemCode.VALUE_WRONG_KIND, ProblemCode.VALUE_WRONG_KIND);
        assertThat(problems).extracting(Problem::place).allMatch(Place.InText.class::isInstance);
    }
}
