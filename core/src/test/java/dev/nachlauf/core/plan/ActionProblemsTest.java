package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What can be wrong with the action of a write, each told at its place with its remedy. */
class ActionProblemsTest {
    private static final String JOB = """
            nachlauf: 1
            job: huts
            read: { connection: inbox, %s }
            write:
              connection: register
              records: hut
              action: %s
              key: [hut_code]
              map: { hut_code: code, name: name }
            %s
            """;

    private static List<String> problems(String read, String action, String more) {
        return problems(JOB.formatted(read, action, more.replace(" | ", "\n").indent(2)));
    }

    private static List<String> problems(String text) {
        List<Problem> problems = new ArrayList<>();
        JobFile.read(new SourceText("huts.yaml", text), problems)
                .ifPresent(job -> Planner.plan(
                        job,
                        Surroundings.NONE,
                        Huts.columns(List.of("code", "name", "beds")),
                        Huts.described(),
                        problems));
        return problems.stream()
                .filter(problem -> !problem.code().isWarning())
                .map(problem -> problem.code().id() + ": " + problem.sentence())
                .toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '#', textBlock = """
                    delete # # map-unfit: The field name is not part of the key, and a record is removed whole.
                    upsert # already-there: skip # value-wrong-kind: already-there has no meaning for action: upsert.
                    insert # not-found: skip # value-wrong-kind: not-found has no meaning for action: insert.
                    upsert # scope: beds > 3 # value-wrong-kind: scope has no meaning for action: upsert.
                    replace # gone: deactivate # key-missing: gone: deactivate says that records stay, but not what they hold from then on.
                    replace # deactivated: { beds: 0 } # key-missing: deactivated says what records hold that are gone, but they are removed.
                    replace # gone: deactivate | deactivated: { hut_code: "'x'" } # replace-unfit: The key's field hut_code stays as it is.
                    replace # gone: deactivate | deactivated: { closed: true } # replace-unfit: hut has no field closed that can be written.
                    replace # gone: deactivate | deactivated: { beds: 1 / 0 } # division-by-zero: Division by zero.
                    replace # scope: beds > 3 # replace-unfit: The scope asks for beds, which the map doesn't give; so it can't be told whether a row lies within it.
                    replace # scope: bedz > 3 # field-unknown: There is no field bedz here.
                    replace # within: [beds] # replace-unfit: Records are replaced within beds, which the map doesn't give.
                    replace # or-key: [name] # value-wrong-kind: or-key has no meaning for action: replace, for a record without a key would count as gone.
                    upsert # or-key: [nmae] # target-field-unknown: hut has no field nmae.
                    upsert # or-key: [beds] # key-not-mapped: The key's field beds is not mapped.
                    replace # empty-source: yes # value-wrong-kind: empty-source is refuse or allow, but yes was found.
                    """)
    void areToldAtTheirPlace(String action, String more, String problem) {
        assertThat(problems("file: huts.csv", action, more == null ? "" : more)).contains(problem);
    }

    /** A source that nobody has seen yet has no fields to map; what the map gives is known all the same. */
    @ParameterizedTest
    @CsvSource({"scope: beds > 3", "within: [beds]"})
    void whatIsMappedWronglyIsMapped(String more) {
        String text = JOB.formatted("file: huts.csv", "replace", more.indent(2))
                .replace("name: name }", "name: name, beds: bedz }");
        assertThat(problems(text)).containsExactly("field-unknown: There is no field bedz here.");
    }

    @ParameterizedTest
    @CsvSource({"replace", "upsert"})
    void whatIsReadInPartCannotReplace(String action) {
        List<String> found = problems("records: stay, changed-since: beds", action, "");
        String unfit =
                "replace-unfit: The job reads only a part of the source, so it can't be told what the source no longer has.";
        assertThat(found.contains(unfit)).isEqualTo(action.equals("replace"));
    }
}
