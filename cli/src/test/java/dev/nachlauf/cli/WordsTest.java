package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.InputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** The words of a call, right and wrong, without a service. */
class WordsTest {
    /** What a call printed, and how it ended. */
    private record Said(int status, String out, String err) {}

    private static Said call(String... words) {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int status = Nachlauf.run(
                new Surroundings(
                        Path.of(""),
                        Map.of(),
                        InputStream.nullInputStream(),
                        new PrintWriter(out, true),
                        new PrintWriter(err, true)),
                words);
        return new Said(status, out.toString(), err.toString());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "connection",
                "source",
                "job",
                "crosswalk",
                "pieces",
                "run",
                "rejects",
                "token",
                "run start",
                "completion"
            })
    void everyGroupAndVerbHelps(String words) {
        Said said = call((words + " --help").split(" "));
        assertThat(said.status).isZero();
        assertThat(said.out).startsWith("Usage: nachlauf " + words);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "run show seven | ID is a whole number, but 'seven' was given.",
                "run list --limit few | --limit is a whole number, but 'few' was given.",
                "--output xml run list | --output is one of table, json, but 'xml' was given.",
                "run show | ID is missing.",
                "token save press | --role is missing.",
                "run show 7 8 | The word '8' is one too many.",
                "run list --jop x | nachlauf run list has no option --jop.",
                "job lsit | There is no verb of job lsit.",
                "jbo list | There is no group jbo.",
                "--output table | A group is missing: connection, source, job, crosswalk, pieces, run, record, rejects, environment, token, secret, completion.",
                "run lst list | There is no verb of run lst.",
                "run | A verb is missing: start, list, show, follow, log, told, stop, leave-out, release, discard, verify, undo, ledger, results, issued, confirm.",
            })
    void wrongWordsAreToldInWordsOfPeople(String words, String sentence) {
        Said said = call(words.split(" "));
        assertThat(said.status).isEqualTo(2);
        assertThat(said.err.lines()).contains(sentence);
        assertThat(said.err.lines().reduce((a, b) -> b).orElseThrow())
                .startsWith("See: nachlauf")
                .endsWith("--help");
        assertThat(said.out).isEmpty();
    }

    @Test
    void theNearestWordIsOffered() {
        assertThat(call("job", "lsit").err).contains("Did you mean list?");
        assertThat(call("run", "list", "--jop", "x").err).contains("Did you mean --job?");
    }

    @Test
    void scriptsGetWhatIsWrongAsJson() {
        JsonNode wrong = ServiceClient.JSON.readTree(call("--output", "json", "run", "show", "seven").err);
        assertThat(wrong.get("code").asString()).isEqualTo("words-wrong");
        assertThat(wrong.get("detail").asString()).startsWith("ID is a whole number, but 'seven' was given.");
        JsonNode away =
                ServiceClient.JSON.readTree(call("--server", "http://127.0.0.1:1", "--output=json", "run", "list").err);
        assertThat(away.get("code").asString()).isEqualTo("unreachable");
        assertThat(away.get("problems")).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"bash", "zsh", "fish"})
    void shellsCompleteGroupsVerbsAndOptions(String shell) {
        Said said = call("completion", shell);
        assertThat(said.status).isZero();
        assertThat(said.out).contains("nachlauf", "crosswalk", "preview", "beyond-limit");
    }
}
