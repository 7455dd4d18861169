package dev.nachlauf.core.job;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemText;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class EnvironmentFileTest {
    private static final String LIVE = """
            nachlauf: 1
            environment: live
            title: The register that counts
            live: true
            values:
              register-host: register.example
              register-port: 5432
              season: "2027"
              password: { env: NACHLAUF_SECRET_LIVE }
            """;
    private static final String REGISTER = """
            nachlauf: 1
            connection: register
            type: postgresql
            settings: { host: "db.${register-host}", port: "${register-port}", password: "${password}" }
            """;

    private final List<Problem> problems = new ArrayList<>();

    private EnvironmentDefinition environment(String text) {
        return EnvironmentFile.read(new SourceText("live.yaml", text), problems).orElse(EnvironmentDefinition.NONE);
    }

    private ConnectionDefinition connection(String text) {
        return ConnectionFile.read(new SourceText("register.yaml", text), problems)
                .orElseThrow();
    }

    private List<String> said() {
        return problems.stream()
                .map(problem -> problem.code().id() + ": " + problem.sentence())
                .toList();
    }

    @Test
    void valuesFillTheSettingsOfAConnection() {
        ConnectionDefinition filled = environment(LIVE).fill(connection(REGISTER), problems);
        assertThat(problems).isEmpty();
        assertThat(filled.settings())
                .containsEntry("host", "db.register.example")
                .containsEntry("port", "5432")
                .containsEntry("password", "env:NACHLAUF_SECRET_LIVE");
        assertThat(filled.name()).isEqualTo("register");
    }

    @Test
    void whatIsMissingIsSaidWithItsPlace() {
        environment(LIVE.replace("register-host", "register-hosts")).fill(connection(REGISTER), problems);
        assertThat(said())
                .containsExactly("environment-value-missing: The environment live has no value register-host.");
        assertThat(problems.getFirst().remedy()).contains("register-hosts");
        assertThat(ProblemText.render(problems.getFirst())).startsWith("register.yaml, line 4, column 13");
    }

    @Test
    void withoutAnyEnvironmentAConnectionThatNeedsOneCantBeUsed() {
        EnvironmentDefinition.NONE.fill(connection(REGISTER), problems);
        assertThat(said())
                .contains("environment-value-missing: The value password comes from an environment, and there is none.")
                .hasSize(3);
        assertThat(EnvironmentDefinition.isNamedIn(connection(REGISTER))).isTrue();
        assertThat(EnvironmentDefinition.isNamedIn(connection(REGISTER.replace("${", "{"))))
                .isFalse();
    }

    @Test
    void aSecretIsNeverAPartOfAnotherText() {
        environment(LIVE).fill(connection(REGISTER.replace("db.${register-host}", "db.${password}")), problems);
        assertThat(said())
                .containsExactly(
                        "secret-unsafe: The value password is a secret, and a secret never is a part of another text.");
    }

    @Test
    void parametersOfAJobAreTakenFromItUnlessTheyAreGiven() {
        JobDefinition job =
                JobFile.read(new SourceText("prices.yaml", """
                        nachlauf: 1
                        job: prices
                        parameters: { season: { is: text }, password: { is: text }, region: { is: text } }
                        read: { connection: inbox, file: prices.csv }
                        write: { connection: register, records: price, action: upsert, key: [code], same-names: true }
                        """), problems).orElseThrow();
        EnvironmentDefinition live = environment(LIVE);
        assertThat(live.parameters(job, Map.of("region", "north")))
                .isEqualTo(Map.of("season", "2027", "region", "north"));
        assertThat(live.parameters(job, Map.of("season", "2028"))).isEqualTo(Map.of("season", "2028"));
    }

    @Test
    void whatIsMalformedIsSaid() {
        environment("""
                nachlauf: 1
                environment: Live!
                live: perhaps
                values: { 1st: x }
                more: x
                """);
        assertThat(said())
                .hasSize(4)
                .anyMatch(text -> text.contains("Live!"))
                .anyMatch(text -> text.contains("'1st' is no name of a value."));
        assertThat(connectionProblem("nachlauf: 1\nconnection: a\ntype: folder\n"))
                .contains("This is a connection, not an environment.");
    }

    private String connectionProblem(String text) {
        problems.clear();
        environment(text);
        return said().toString();
    }
}
