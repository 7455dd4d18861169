package dev.nachlauf.acceptance.console;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.nachlauf.acceptance.Installation;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A run is held, looked at, released, compared, undone, and found in the history of a record: all in the browser. */
class ReviewTest {
    private static final Installation NACHLAUF = Installation.own("review");
    private static ConsoleBrowser chromium;

    private Page page;

    @BeforeAll
    static void start() {
        NACHLAUF.cluster.execute(NACHLAUF.register, "CREATE TABLE marker (no text PRIMARY KEY, height integer)");
        NACHLAUF.connect();
        String job = """
                nachlauf: 1
                job: markers
                read: { connection: wardens-inbox, file: markers.csv, take: always }
                write:
                  connection: register
                  records: marker
                  action: upsert
                  key: [no]
                  map: { no: no, height: height }
                """;
        NACHLAUF.client("job", "save", NACHLAUF.write("markers.yaml", job).toString());
        String anew = job.replace("job: markers", "job: markers-anew").replace("upsert", "replace");
        NACHLAUF.client(
                "job",
                "save",
                NACHLAUF.write("markers-anew.yaml", anew + "limits: { deleted: 0 }\n")
                        .toString());
        String given = job.replace("job: markers", "job: markers-given")
                .replace("{ connection: wardens-inbox, file: markers.csv, take: always }", "{ upload: markers.csv }");
        NACHLAUF.client(
                "job", "save", NACHLAUF.write("markers-given.yaml", given).toString());
        NACHLAUF.write("inbox/markers.csv", "no;height\nM-1;10\nM-2;20\nM-3;30\nM-4;high\n");
        chromium = new ConsoleBrowser(NACHLAUF);
    }

    @AfterAll
    static void stop() {
        chromium.close();
        NACHLAUF.close();
    }

    @BeforeEach
    void openPage() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "TRUNCATE marker; INSERT INTO marker (no, height) VALUES ('M-1', 9), ('M-3', 3)");
        page = chromium.page();
    }

    @AfterEach
    void closePage() {
        assertThat(chromium.refused()).as("what the page's own policy refused").isEmpty();
        page.close();
    }

    private void press(String button) {
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName(button).setExact(true))
                .click();
    }

    private void startFromPage(String mode, String button) {
        choose("markers", mode);
        press(button);
        page.waitForURL(Pattern.compile("/runs/\\d+"));
    }

    private void choose(String job, String mode) {
        page.navigate(NACHLAUF.address() + "/jobs/" + job);
        press("Start a run");
        page.getByLabel(Pattern.compile("^" + mode)).check();
    }

    private static String markers() {
        return NACHLAUF.count("SELECT string_agg(no || ' ' || height, ', ' ORDER BY no) FROM marker");
    }

    @Test
    void aDryRunSaysWhatItIs() {
        startFromPage("Dry run", "Start the dry run");
        assertThat(page.getByText("Nothing is written.", new Page.GetByTextOptions().setExact(false)))
                .isVisible();
        assertThat(page.getByText("3 planned = 1 inserted + 2 updated")).isVisible();
        assertThat(page.getByText("M-2", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        assertThat(markers()).isEqualTo("M-1 9, M-3 3");
    }

    @Test
    void aFileIsGivenToARunAndAskedForWhereTheJobNamesNone() {
        choose("markers-given", "Read");
        assertThat(page.getByText("Still needed: the file markers.csv")).isVisible();
        assertThat(page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Start").setExact(true)))
                .isDisabled();
        page.getByLabel("The file markers.csv of this run")
                .setInputFiles(NACHLAUF.write("given.csv", "no;height\nM-7;70\n"));
        press("Start");
        page.waitForURL(Pattern.compile("/runs/\\d+"));
        assertThat(page.getByText("given.csv").first()).isVisible();
        assertThat(page.getByText("1 taken = 1 inserted")).isVisible();
        assertThat(markers()).isEqualTo("M-1 9, M-3 3, M-7 70");
    }

    @Test
    void recordsAreFoundByAFormulaAndCorrectedOneByOne() {
        page.navigate(NACHLAUF.address() + "/connections/register/marker");
        page.getByText("Find records").click();
        assertThat(page.getByText("2 records.")).isVisible();
        page.getByLabel("Records for which this formula is true").fill("height > 5 and no < 'M-9'");
        press("Find");
        assertThat(page.getByText("1 record.")).isVisible();
        press("Correct M-1");
        page.getByLabel(Pattern.compile("^height")).fill("12");
        press("Correct the record");
        page.waitForURL(Pattern.compile("/runs/\\d+"));
        assertThat(page.getByText("1 taken = 1 updated")).isVisible();
        assertThat(markers()).isEqualTo("M-1 12, M-3 3");

        page.navigate(NACHLAUF.address() + "/connections/register/marker/found?where=height+%3E+x");
        assertThat(page.getByText("There is no field x", new Page.GetByTextOptions().setExact(false)))
                .isVisible();
        press("New record");
        page.getByLabel(Pattern.compile("^no")).fill("M-8");
        page.getByLabel(Pattern.compile("^height")).fill("8");
        press("Make the record");
        page.waitForURL(Pattern.compile("/runs/\\d+"));
        assertThat(page.getByText("1 taken = 1 inserted")).isVisible();
        assertThat(markers()).isEqualTo("M-1 12, M-3 3, M-8 8");
    }

    @Test
    void whatIsUntickedIsNotWrittenAndWhatIsWrittenCanBeTakenBack() {
        startFromPage("Hold", "Start and hold");
        assertThat(page.getByText("Everything is planned and nothing is written."))
                .isVisible();
        String written = page.url().replaceAll(".*/", "");
        page.getByLabel("Write row 1").uncheck();
        assertThat(page.getByText("1 row left out.")).isVisible();
        press("Write what is planned");
        assertThat(page.getByText("Planned: 1 new record and 2 changed records in register marker."))
                .isVisible();
        assertThat(page.getByText("Of that, 1 row left out, with what belongs to them."))
                .isVisible();
        press("Write it");
        assertThat(page.getByText("2 taken = 1 inserted + 1 updated")).isVisible();
        assertThat(markers()).isEqualTo("M-1 9, M-2 20, M-3 30");

        NACHLAUF.cluster.execute(NACHLAUF.register, "UPDATE marker SET height = 31 WHERE no = 'M-3'");
        press("Compare with what is there");
        assertThat(page.getByText("2 records compared: 1 as the run has left them, 1 changed since, 0 gone."))
                .isVisible();
        NACHLAUF.cluster.execute(NACHLAUF.register, "UPDATE marker SET height = 30 WHERE no = 'M-3'");

        press("Undo the run");
        press("Take it back");
        assertThat(page.getByText("2 taken = 1 updated + 1 deleted")).isVisible();
        assertThat(markers()).isEqualTo("M-1 9, M-3 3");

        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("M-3").setExact(true))
                .click();
        Locator changes = page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Changes"))
                .locator("tbody tr");
        assertThat(changes.nth(0)).containsText("undo of run " + written);
        assertThat(changes.nth(1).getByRole(AriaRole.ROWHEADER)).hasText(written);
        assertThat(changes.nth(1)).containsText("height 3 → 30");
    }

    @Test
    void theFirstOfTheChosenRowsAreWrittenBeforeTheOthers() {
        choose("markers", "First rows");
        page.getByLabel("How many rows first").fill("2");
        page.getByText("Only some rows").click();
        page.getByLabel("Rows for which this formula is true").fill("no <> 'M-1'");
        press("Start with these");
        page.waitForURL(Pattern.compile("/runs/\\d+"));
        assertThat(page.getByText("The first rows are written. Look at them")).isVisible();
        assertThat(page.getByText("only rows where no <> 'M-1'")).isVisible();
        assertThat(page.getByText("1 taken = 1 inserted")).isVisible();
        assertThat(page.getByText("[first-rows-written]")).isHidden();
        assertThat(markers()).isEqualTo("M-1 9, M-2 20, M-3 3");
        press("Compare with what is there");
        assertThat(page.getByText("1 record compared: 1 as the run has left them, 0 changed since, 0 gone."))
                .isVisible();
        press("Write the other rows");
        assertThat(page.getByText("2 taken = 1 inserted + 1 updated")).isVisible();
        assertThat(markers()).isEqualTo("M-1 9, M-2 20, M-3 30");
    }

    @Test
    void whatWouldGoIsShownBeforeItGoes() {
        NACHLAUF.cluster.execute(NACHLAUF.register, "INSERT INTO marker (no, height) VALUES ('M-9', 90)");
        choose("markers-anew", "Read, check and write");
        press("Start");
        page.waitForURL(Pattern.compile("/runs/\\d+"));
        assertThat(page.getByText("1 record would be removed; the job's limit is 0."))
                .isVisible();
        assertThat(page.getByText("1 planned = 1 deleted")).isVisible();
        assertThat(page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Removed records")))
                .containsText("M-9height 90");
        assertThat(markers()).isEqualTo("M-1 9, M-3 3, M-9 90");
        press("Write what is planned");
        assertThat(page.getByText("Planned: 1 new record, 2 changed records and 1 removed record in register marker."))
                .isVisible();
        press("Write it");
        assertThat(page.getByText("1 taken = 1 deleted")).isVisible();
        assertThat(markers()).isEqualTo("M-1 10, M-2 20, M-3 30");
    }
}
