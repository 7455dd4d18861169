package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Requirement.Among;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** By what the records of a scope are listed. */
class RemovalTest {
    private static Removal of(String more) {
        List<Problem> problems = new ArrayList<>();
        String job = """
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: huts.csv }
                write:
                  connection: register
                  records: hut
                  action: replace
                  key: [hut_code]
                  map: { hut_code: code, name: name, beds: cast(beds as integer) }
                  %s
                """.formatted(more);
        return JobFile.read(new SourceText("huts.yaml", job), problems)
                .flatMap(read -> Planner.plan(
                        read,
                        Surroundings.NONE,
                        Huts.columns(List.of("code", "name", "beds")),
                        Huts.described(),
                        problems))
                .flatMap(plan -> plan.writes().getFirst().removal())
                .orElseThrow(() -> new AssertionError(problems));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '#', textBlock = """
            name = 'Larch' # name # [Larch]
            name in ('Larch', 'Fern') and beds > 2 # name # [Larch, Fern]
            name in ('Larch', 'Fern') and beds = 2 # beds # [2]
            """)
    void isTheFieldOfWhichTheScopeAllowsTheFewestValues(String scope, String field, String values) {
        Removal removal = of("scope: " + scope);
        Among common = removal.common(any -> true).orElseThrow();
        assertThat(common.values()).hasToString(values);
        assertThat(removal.listing(Optional.of(common)).key()).containsExactly(field);
        assertThat(removal.common(any -> false)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"name <> 'Larch'", "name = 'Larch' or beds = 2", "beds = 2.5", "beds > 2"})
    void otherwiseAllAreListed(String scope) {
        Removal removal = of("scope: " + scope);
        assertThat(removal.common(any -> true)).isEmpty();
        assertThat(removal.listing(Optional.empty()).key()).containsExactly("hut_code");
    }

    @Test
    void whatRowsHaveInCommonWithThemComesFirst() {
        Removal removal = of("within: [name]");
        assertThat(removal.listing(removal.common(any -> true)).key()).containsExactly("name");
    }
}
