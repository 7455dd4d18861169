package dev.nachlauf.acceptance.console;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import dev.nachlauf.acceptance.Installation;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The console in a real browser, with the demo's runs. */
class ConsoleTest {
    private static final Installation NACHLAUF = Installation.own("console");
    private static ConsoleBrowser chromium;
    private static String first;
    private static String corrected;
    private static final String LIST = "/sources?connection=wardens-inbox&file=spring-list.xlsx";

    private Page page;

    @BeforeAll
    static void openBrowser() {
        NACHLAUF.loadDemo();
        first = load("spring-list-2026.xlsx");
        NACHLAUF.write("inbox/look.csv", "code;opens;price\nH-1;01/02/2026;24,50\nH-2;03/04/2026;24,50\n");
        try {
            Files.copy(
                    Installation.TOP.resolve("demo-data/files/spring-list-2026-corrected.xlsx"),
                    NACHLAUF.inbox.resolve("spring-list.xlsx"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        corrected = load("spring-list-2026-corrected.xlsx");
        chromium = new ConsoleBrowser(NACHLAUF);
    }

    private static String load(String file) {
        String path = Installation.TOP.resolve("demo-data/files").resolve(file).toString();
        return NACHLAUF.client("--output", "json", "run", "start", "hut-list", "--follow", "--file", path)
                .json()
                .get("id")
                .asString();
    }

    @AfterAll
    static void closeBrowser() {
        chromium.close();
        NACHLAUF.close();
    }

    @BeforeEach
    void openPage() {
        page = chromium.page();
    }

    @AfterEach
    void closePage() {
        assertThat(chromium.refused()).as("what the page's own policy refused").isEmpty();
        page.close();
    }

    private void open(String path) {
        page.navigate(NACHLAUF.address() + path);
    }

    private Locator rowsOf(String table) {
        return page.getByRole(
                        AriaRole.TABLE,
                        new Page.GetByRoleOptions().setName(table).setExact(true))
                .locator("tbody tr");
    }

    @Test
    void theOverviewShowsEachJobWithItsBalanceBar() {
        open("/");
        assertThat(page.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("hut-list").setExact(true)))
                .isVisible();
        assertThat(page.getByLabel("9 inserted, 20 updated, 214 unchanged, 6 skipped"))
                .isVisible();
    }

    @Test
    void aRunShowsItsBalanceItsChangesAndItsLedger() {
        open("/runs/" + corrected);
        assertThat(page.getByText("249 rows = 243 passed + 6 skipped")).isVisible();
        assertThat(page.getByText("243 taken = 9 inserted + 20 updated + 214 unchanged"))
                .isVisible();
        var row = page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("H-006"));
        assertThat(row).containsText("beds 17 → 21");
        assertThat(row).containsText("price 35.50 → 35.80");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Skipped 6"))
                .click();
        assertThat(page.getByText("filtered")).hasCount(6);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("All rows"))
                .click();
        assertThat(rowsOf("Rows")).hasCount(100);
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Show more"))
                .click();
        assertThat(rowsOf("Rows")).hasCount(200);
    }

    @Test
    void rejectsAreShownWithReasonAndRawRow() {
        open("/runs/" + first + "/rejects");
        assertThat(rowsOf("Rejected rows")).hasCount(10);
        assertThat(page.getByText("A hut has 0 to 200 beds.")).isVisible();
        assertThat(page.locator("td .bad", new Page.LocatorOptions().setHasText("2400")))
                .isVisible();
        assertThat(page.getByText(Pattern.compile("2 key-repeated"))).isVisible();
    }

    @Test
    void aJobShowsItsTextAndCanBeCheckedAndStarted() {
        String text = Installation.read(Installation.TOP.resolve("demo-data/jobs/hut-list.yaml"))
                .replace("job: hut-list", "job: later-list");
        NACHLAUF.client("job", "save", NACHLAUF.write("later-list.yaml", text).toString());
        open("/jobs/later-list");
        assertThat(page.locator(".cm-content")).containsText("job: later-list");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Check"))
                .click();
        assertThat(page.getByText(Pattern.compile("Sound; checked against target register hut")))
                .isVisible();
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Start a run"))
                .click();
        assertThat(page.getByLabel("season")).hasAttribute("placeholder", "2026");
        page.getByLabel("season").fill("2031");
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Start").setExact(true))
                .click();
        assertThat(page.getByText(Pattern.compile("No file spring-list-2031.xlsx is in wardens-inbox")))
                .isVisible();
    }

    @Test
    void whatAJobMakesOfItsFirstRowsIsShownWhileItIsWritten() {
        NACHLAUF.write("inbox/bells.csv", "Bell no.;name;beds\nB-1;larch;8\nB-2;fern;many\nB-3;stone;9\n");
        NACHLAUF.client("job", "save", NACHLAUF.write("bells.yaml", """
                nachlauf: 1
                job: bells
                read: { connection: wardens-inbox, file: bells.csv, fields: { beds: { is: integer } } }
                write:
                  connection: register
                  records: hut
                  action: update
                  key: [hut_code]
                  map:
                    hut_code: '("Bell no.")'
                    beds: beds
                    name: upper(name)""").toString());
        open("/jobs/bells");
        assertThat(rowsOf("What hut gets")).containsText(new String[] {"B-1", "8", "LARCH"});
        assertThat(rowsOf("What hut gets").nth(1)).containsText("'many' is not");
        assertThat(page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Columns of the source")))
                .containsText("Bell no. B-1");
        page.getByLabel("Text of the job").click();
        page.keyboard().press("ControlOrMeta+End");
        page.keyboard().type(" || ");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Bell no. B-1"))
                .click();
        assertThat(rowsOf("What hut gets").nth(2)).containsText("LARCHB-1");
        page.keyboard().type(" +");
        assertThat(page.locator("pre.problem")).containsText("formula-syntax");
        page.keyboard().press("Backspace");
        page.keyboard().press("Backspace");
        page.getByText("not mapped").click();
        assertThat(rowsOf("What hut gets").filter(new Locator.FilterOptions().setHasText("UPPER")))
                .hasCount(0);
        page.getByText("mapped", new Page.GetByTextOptions().setExact(true)).click();
        page.getByLabel("Search fields").fill("upper(");
        assertThat(rowsOf("What hut gets")).hasCount(1);
        page.getByLabel("Search fields").clear();
        page.getByLabel("Only rejected ones of the first 200").check();
        assertThat(page.getByRole(AriaRole.COLUMNHEADER, new Page.GetByRoleOptions().setName("row 2 rejected")))
                .isVisible();
        assertThat(page.getByRole(AriaRole.COLUMNHEADER, new Page.GetByRoleOptions().setName("row 1")))
                .hasCount(0);
    }

    @Test
    void valuesWithoutATranslationAreAddedOnTheSpot() {
        NACHLAUF.client("crosswalk", "save", NACHLAUF.write("tone.yaml", """
                nachlauf: 1
                crosswalk: tone
                entries:
                  - { from: deep, to: D }
                """).toString());
        NACHLAUF.client("job", "save", NACHLAUF.write("tones.yaml", """
                nachlauf: 1
                job: tones
                read: { connection: wardens-inbox, file: none.csv }
                write:
                  connection: register
                  records: hut
                  action: update
                  key: [hut_code]
                  map: { hut_code: code, name: "crosswalk('tone', tone)" }
                """).toString());
        String file = NACHLAUF.write("tones.csv", "code;tone\nX-1;high\nX-2;high\nX-3;deep\n")
                .toString();
        String run = NACHLAUF.client("--output", "json", "run", "start", "tones", "--follow", "--file", file)
                .json()
                .get("id")
                .asString();
        open("/runs/" + run);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Missing translations"))
                .click();
        assertThat(rowsOf("Values without a translation")).containsText(new String[] {"tonehigh2tones.csv, line 2"});
        page.getByLabel("What high becomes").fill("H");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Add"))
                .click();
        assertThat(page.getByText("tone is saved as version 2; that heals 2 open rejects"))
                .isVisible();
        assertThat(page.getByText("Every value of this run has a translation now."))
                .isVisible();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Crosswalks"))
                .click();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("tone"))
                .click();
        page.getByLabel("Value").fill("high");
        assertThat(page.getByText("by from: high")).isVisible();
        page.getByLabel("Value").fill("shrill");
        assertThat(page.getByText("The crosswalk tone has no translation of 'shrill'."))
                .isVisible();
    }

    @Test
    void aLiveRunIsFollowedToItsEnd() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "CREATE TABLE IF NOT EXISTS live_line (line_no text PRIMARY KEY, kg integer)");
        String job =
                "nachlauf: 1\njob: lines\nread: { connection: wardens-inbox, file: lines.csv }\nwrite:\n  connection: register\n"
                        + "  records: live_line\n  action: upsert\n  key: [line_no]\n  map: { line_no: line_no, kg: kg }\n";
        assertThat(NACHLAUF.client(
                                "job", "save", NACHLAUF.write("lines.yaml", job).toString())
                        .status())
                .isZero();
        StringBuilder csv = new StringBuilder("line_no;kg\n");
        for (int i = 0; i < 40_000; i++) {
            csv.append("L").append(i).append(';').append(i % 900).append('\n');
        }
        NACHLAUF.write("inbox/lines.csv", csv.toString());
        open("/jobs/lines");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Start a run"))
                .click();
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Start").setExact(true))
                .click();
        page.waitForURL(Pattern.compile("/runs/\\d+"));
        assertThat(page.getByText("40,000 taken = 40,000 inserted"))
                .isVisible(new com.microsoft.playwright.assertions.LocatorAssertions.IsVisibleOptions()
                        .setTimeout(60_000));
        assertThat(page.locator("h1 .pill")).hasText("finished");
    }

    @Test
    void aSourceIsPickedLookedAtAndCorrected() {
        open("/sources?connection=wardens-inbox");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("look.csv"))
                .click();
        assertThat(page.getByText("All 2 rows were looked at")).isVisible();
        assertThat(page.getByLabel("delimiter")).hasValue(";");
        assertThat(page.getByText(Pattern.compile("'01/02/2026' can be 2026-02-01")))
                .isVisible();
        page.getByLabel("delimiter").fill("|");
        page.getByLabel("delimiter").press("Enter");
        assertThat(page.getByText(Pattern.compile("header is one single field")))
                .isVisible();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Take the stated options back"))
                .click();
        assertThat(page.locator("pre.panel")).containsText("file: look.csv");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Profile"))
                .click();
        assertThat(page.getByText("2 rows.")).isVisible();
        assertThat(page.getByText("price is 24,50 in every row.")).isVisible();
    }

    @Test
    void aPastedSampleIsLookedAt() {
        open("/sources");
        page.getByLabel("From a pasted sample").fill("[{\"code\": \"H-1\", \"beds\": 12}]");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Look at the sample"))
                .click();
        assertThat(page.getByLabel("as", new Page.GetByLabelOptions().setExact(true)))
                .hasValue("json");
        assertThat(page.locator("tbody td", new Page.LocatorOptions().setHasText("H-1")))
                .isVisible();
    }

    @Test
    void keysOfASourceAreAdvised() {
        open(LIST + "&part=keys");
        page.getByLabel("Records").selectOption("hut");
        var best = page.locator("tbody tr").first();
        assertThat(best).containsText("Hut no.");
        assertThat(best).containsText("hut_code");
        assertThat(best).containsText("kept unique");
    }

    @Test
    void aConnectionShowsRecordTypesAndMarkedFields() {
        open("/connections/register/hut");
        var code = page.getByRole(AriaRole.ROW)
                .filter(new Locator.FilterOptions()
                        .setHas(page.getByText("hut_code", new Page.GetByTextOptions().setExact(true))));
        assertThat(code).containsText("key");
        assertThat(code).containsText("required");
        assertThat(page.getByText("Can serve as an external key: hut_id; hut_code; phone."))
                .isVisible();
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Test"))
                .click();
        assertThat(page.getByText(Pattern.compile("Reached PostgreSQL .*can read and write")))
                .isVisible();
    }

    @Test
    void aLinkOpensTheConsoleOnceAndWhoIsNotSignedInSeesHow() {
        String link = NACHLAUF.client("token", "link").out().strip();
        assertThat(link).startsWith(NACHLAUF.address() + "/enter#");
        page.context().clearCookies();
        open("/runs");
        Locator signIn = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Sign in"));
        assertThat(signIn).isVisible();
        assertThat(rowsOf("Runs")).hasCount(0);
        page.navigate(link);
        assertThat(page.getByText(Pattern.compile("local may administer"))).isVisible();
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Sign out"))
                .click();
        assertThat(signIn).isVisible();
        open("/");
        page.navigate(link);
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The link was used before");
        page.getByLabel("Token").fill(NACHLAUF.token());
        signIn.click();
        assertThat(page.getByText(Pattern.compile("local may administer"))).isVisible();
    }

    @Test
    void whatARoleMayNotDoIsNotOffered() {
        String secret = NACHLAUF.client("token", "save", "visitor", "--role", "look")
                .out()
                .strip();
        page.context().addCookies(List.of(ConsoleBrowser.session(NACHLAUF, secret)));
        open("/jobs/hut-list");
        assertThat(page.locator(".cm-content")).containsText("job: hut-list");
        assertThat(page.getByText(Pattern.compile("visitor may look"))).isVisible();
        assertThat(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Start a run")))
                .hasCount(0);
        assertThat(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Check")))
                .isVisible();
        open("/sources");
        assertThat(page.getByText("From this machine")).hasCount(0);
    }

    @Test
    void whatIsTypedOutlivesAVersionThatIsSavedElsewhere() {
        String job = """
                nachlauf: 1
                job: shared
                title: %s
                read: { connection: wardens-inbox, file: shared.csv }
                write: { connection: register, records: hut, action: update, key: [hut_code], map: { hut_code: code } }
                """;
        NACHLAUF.write("inbox/shared.csv", "code;beds\nH-001;8\n");
        NACHLAUF.client(
                "job",
                "save",
                NACHLAUF.write("shared.yaml", job.formatted("First")).toString());
        open("/jobs/shared");
        Locator text = page.locator(".cm-content");
        assertThat(text).containsText("title: First");
        text.click();
        page.keyboard().press("Control+Home");
        page.keyboard().type("# typed here");
        NACHLAUF.client(
                "job",
                "save",
                NACHLAUF.write("shared.yaml", job.formatted("Second")).toString());
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("Save as version")))
                .click();
        assertThat(page.getByText(Pattern.compile("Version 2 was saved by .* while this text was being changed")))
                .isVisible();
        assertThat(text).containsText("# typed here");
        assertThat(text).containsText("title: First");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Take version 2"))
                .click();
        assertThat(text).containsText("title: Second");
        assertThat(text).not().containsText("# typed here");
    }

    @Test
    void whatIsKeptIsAFigure() {
        open("/kept");
        assertThat(page.getByRole(
                        AriaRole.ROW,
                        new Page.GetByRoleOptions().setName(Pattern.compile("Files that runs have read .*180 days"))))
                .isVisible();
        assertThat(page.getByText(Pattern.compile("from their end; the balance stays for ever")))
                .isVisible();
    }

    @Test
    void aServiceThatIsGoneIsSaidQuietly() {
        open("/jobs/hut-list");
        assertThat(page.locator(".cm-content")).containsText("job: hut-list");
        page.route("**/api/**", route -> route.abort());
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Check"))
                .click();
        assertThat(page.getByText(Pattern.compile("Next try in \\d s"))).isVisible();
        assertThat(page.locator(".cm-content")).containsText("job: hut-list");
        page.unroute("**/api/**");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Try now"))
                .click();
        assertThat(page.getByText(Pattern.compile("Next try"))).isHidden();
    }

    @Test
    void everyPageIsAccessibleLightAndDark() {
        String axe = Installation.read(Installation.TOP.resolve("console/node_modules/axe-core/axe.min.js"));
        page.route(
                "**/api/**",
                route -> route.resume(new Route.ResumeOptions()
                        .setUrl(fewerLines(route.request().url()))));
        for (String path : List.of(
                "/",
                "/jobs",
                "/jobs/hut-list",
                "/runs",
                "/runs/" + first,
                "/runs/" + first + "/rejects",
                "/runs/" + first + "/gaps",
                "/rejects",
                "/crosswalks",
                "/crosswalks/region",
                "/sources",
                LIST,
                LIST + "&part=profile",
                LIST + "&part=keys&into=hut",
                "/connections",
                "/connections/register/hut",
                "/connections/register/hut/history?key=hut_code%3DH-018",
                "/connections/register/hut/found",
                "/runs/" + first + "/log",
                "/kept")) {
            open(path);
            assertThat(page.getByRole(AriaRole.HEADING).first()).isVisible();
            assertThat(page.locator("[aria-busy=true]")).hasCount(0);
            page.evaluate(axe);
            look(ColorScheme.LIGHT);
            assertThat(violations("['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']"))
                    .as(path)
                    .isEmpty();
            // between light and dark nothing but colours differs
            look(ColorScheme.DARK);
            assertThat(violations("{ type: 'rule', values: ['color-contrast', 'link-in-text-block'] }"))
                    .as(path + " in the dark")
                    .isEmpty();
        }
        page.unroute("**/api/**");
    }

    /** The last line of a table is as accessible as the first ones, and looking at each takes long. */
    private static String fewerLines(String address) {
        return address.replace("limit=100", "limit=8").replace("/found?", "/found?limit=5&");
    }

    private void look(ColorScheme scheme) {
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(scheme));
    }

    private List<?> violations(String rules) {
        return (List<?>) page.evaluate("async () => (await axe.run(document, { runOnly: " + rules + " }))"
                + ".violations.map(v => v.id + ': ' + v.nodes.map(n => n.target + ' ' + n.failureSummary).join('; '))");
    }
}
