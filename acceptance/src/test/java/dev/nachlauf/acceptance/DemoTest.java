package dev.nachlauf.acceptance;

import static dev.nachlauf.acceptance.Patience.patiently;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** All jobs of the demo, loaded once in the demo's order; what they reject is what {@code docs/demo.md} says. */
class DemoTest {
    private static final Installation NACHLAUF = Installation.own("demo");
    private static final OfficeMail MAILS = new OfficeMail();
    private static final Path DATA = Installation.TOP.resolve("demo-data");
    private static final List<String> JOBS =
            List.of("hut-list", "stays", "till-days", "supply-orders", "tariffs", "winter-class");
    private static final Pattern LINE = Pattern.compile("(?m)^\\| (\\d+) \\| ([a-z -]+?) \\|");
    private static final Map<String, JsonNode> RUNS = new HashMap<>();

    @BeforeAll
    static void loadEverything() throws IOException {
        NACHLAUF.cluster.execute(NACHLAUF.register, Installation.read(DATA.resolve("register.sql")));
        NACHLAUF.connect();
        // the demo fetches the orders by FTP; here they lie in a folder
        save("connection", NACHLAUF.write("helicopter.yaml", """
                nachlauf: 1
                connection: helicopter
                type: folder
                settings: { path: %s, quiet: 0 }
                """.formatted(DATA.resolve("files/drop"))));
        MAILS.connect(NACHLAUF);
        for (Path file : List.of(
                DATA.resolve("files/spring-list-2026.xlsx"),
                DATA.resolve("files/stays-2026.csv"),
                DATA.resolve("files/tariffs-2026.xlsx"),
                DATA.resolve("files/articles-2026.csv"))) {
            Files.copy(file, NACHLAUF.inbox.resolve(file.getFileName()));
        }
        for (String crosswalk : List.of("region", "hut-category")) {
            save("crosswalk", DATA.resolve("crosswalks/" + crosswalk + ".yaml"));
        }
        save("pieces", DATA.resolve("pieces/huts.yaml"));
        for (String job : JOBS) {
            save("job", DATA.resolve("jobs/" + job + ".yaml"));
        }
        for (String job : JOBS) {
            RUNS.put(job, load(job));
            if (job.equals("hut-list")) {
                Path corrected = DATA.resolve("files/spring-list-2026-corrected.xlsx");
                RUNS.put("corrected", load(job, "--file", corrected.toString()));
            }
        }
    }

    @AfterAll
    static void stop() {
        MAILS.close();
        NACHLAUF.close();
    }

    private static void save(String group, Path file) {
        Result saved = NACHLAUF.client(group, "save", file.toString());
        assertThat(saved.status()).as(saved.err()).isZero();
    }

    private static JsonNode load(String job, String... more) {
        List<String> words = new ArrayList<>(List.of("--output", "json", "run", "start", job, "--follow"));
        words.addAll(List.of(more));
        Result run = NACHLAUF.client(words.toArray(String[]::new));
        assertThat(run.json().get("state").asString()).as(run.err()).isEqualTo("finished");
        assertThat(run.json().get("balance").get("balanced").asBoolean()).isTrue();
        return run.json();
    }

    /** Row and codes of each reject that a section of the page lists. */
    private static List<String> documented(String job) {
        String page = Installation.read(Installation.TOP.resolve("docs/demo.md"));
        int start = page.indexOf("\n## " + job + "\n");
        assertThat(start).as("the section of " + job).isNotNegative();
        int end = page.indexOf("\n## ", start + 1);
        return LINE.matcher(page.substring(start, end < 0 ? page.length() : end))
                .results()
                .map((MatchResult line) -> line.group(1) + " " + line.group(2))
                .toList();
    }

    private static List<String> rejected(String job) {
        String id = RUNS.get(job).get("id").asString();
        return NACHLAUF.client("--output", "json", "rejects", "list", "--run", id).lines().stream()
                .map(reject -> reject.get("row").asLong() + " "
                        + String.join(
                                " ",
                                reject.get("problems")
                                        .valueStream()
                                        .map(problem -> problem.get("code").asString())
                                        .distinct()
                                        .toList()))
                .toList();
    }

    @ParameterizedTest
    @CsvSource({
        "hut-list, 250, 234, 0",
        "stays, 1200, 1192, 0",
        "till-days, 1200, 1156, 0",
        "supply-orders, 432, 175, 0",
        "tariffs, 60, 242, 0",
        "winter-class, 243, 0, 241"
    })
    void eachJobRejectsWhatItsDocumentationSays(String job, long read, long inserted, long updated) {
        JsonNode balance = RUNS.get(job).get("balance");
        assertThat(balance.get("read").asLong()).isEqualTo(read);
        assertThat(balance.get("inserted").asLong()).isEqualTo(inserted);
        assertThat(balance.get("updated").asLong()).isEqualTo(updated);
        assertThat(rejected(job)).containsExactlyElementsOf(documented(job));
    }

    @Test
    void theCorrectedListChangesWhatDiffersAndRejectsNothing() {
        JsonNode balance = RUNS.get("corrected").get("balance");
        assertThat(balance.get("inserted").asLong()).isEqualTo(9);
        assertThat(balance.get("updated").asLong()).isEqualTo(20);
        assertThat(balance.get("unchanged").asLong()).isEqualTo(214);
        assertThat(rejected("corrected")).isEmpty();
    }

    @Test
    void theRegisterHoldsWhatTheBalancesSay() {
        assertThat(NACHLAUF.count("SELECT count(*) FROM hut")).isEqualTo("243");
        assertThat(NACHLAUF.count("SELECT count(*) || ' ' || (SELECT count(*) FROM supply_line) FROM supply_order"))
                .isEqualTo("175 420");
        assertThat(NACHLAUF.count("SELECT count(*) FROM hut WHERE winter_class IS NULL"))
                .isEqualTo("2");
        assertThat(NACHLAUF.count("SELECT sum(till_day.nights) - (SELECT sum(nights) FROM stay) FROM till_day"))
                .as("every stay that was loaded counts in its day")
                .isEqualTo("0");
        assertThat(NACHLAUF.count("SELECT count(*) FROM supply_line WHERE article_no IS NULL"))
                .isEqualTo("0");
    }

    @Test
    void theWardensFindTheirListBesideTheirsWithWhatBecameOfEachRow() throws IOException {
        String run = RUNS.get("hut-list").get("id").asString();
        patiently()
                .until(() -> NACHLAUF.client("--output", "json", "run", "show", run)
                        .json()
                        .at("/putBack/state")
                        .asString()
                        .equals("done"));
        Path again = NACHLAUF.home.resolve("results.xlsx");
        NACHLAUF.client(
                "run", "results", run, "--out", again.toString(), "--columns", "outcome=Outcome,message=What is wrong");
        assertThat(NACHLAUF.inbox.resolve("spring-list-2026-results.xlsx")).hasSameBinaryContentAs(again);
    }

    @Test
    void theOfficeIsToldOfTheOrdersThatWereRejected() {
        String run = RUNS.get("supply-orders").get("id").asString();
        assertThat(NACHLAUF.client("run", "told", run).out())
                .contains("Sent to office@guides-union.example.")
                .contains("rejects");
        assertThat(MAILS.mails())
                .singleElement()
                .satisfies(mail -> assertThat(mail.source())
                        .contains("Subject: Run " + run + " of supply-orders has left 12 rejects")
                        .contains("     4  group-rejected", "     4  value-malformed (root.wanted_by)")
                        .doesNotContain("botle", "soon"));
    }
}
