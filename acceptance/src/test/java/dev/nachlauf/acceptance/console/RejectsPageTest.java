package dev.nachlauf.acceptance.console;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.nachlauf.acceptance.Installation;
import dev.nachlauf.acceptance.Result;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A rejected row is corrected, another one set aside, and what is open is sent again: all in the browser. */
class RejectsPageTest {
    private static final Installation NACHLAUF = Installation.own("mended");
    private static ConsoleBrowser chromium;

    private final Page page = chromium.page();

    @BeforeAll
    static void start() {
        NACHLAUF.cluster.execute(NACHLAUF.register, "CREATE TABLE lamp (no text PRIMARY KEY, oil integer)");
        NACHLAUF.connect();
        NACHLAUF.write("inbox/lamps.csv", "no,oil\nL-1,4\nL-2,much\nL-3,none\nL-4,2\n");
        String job = NACHLAUF.write("lamps.yaml", """
                nachlauf: 1
                job: lamps
                read: { connection: wardens-inbox, file: lamps.csv, fields: { oil: { is: integer } } }
                write: { connection: register, records: lamp, action: upsert, key: [no], same-names: true }
                """).toString();
        assertThat(NACHLAUF.client("job", "save", job).status()).isZero();
        Result run = NACHLAUF.client("run", "start", "lamps", "--follow");
        assertThat(run.status()).as(run.toString()).isEqualTo(3);
        NACHLAUF.cluster.execute(NACHLAUF.register, "CREATE TABLE bunk (no text PRIMARY KEY, width integer)");
        NACHLAUF.write("inbox/bunks.csv", "no,width\nB-1,80\nB-2,wide\nB-3,narrow\n");
        String bunks = NACHLAUF.write("bunks.yaml", """
                nachlauf: 1
                job: bunks
                read: { connection: wardens-inbox, file: bunks.csv, fields: { width: { is: integer } } }
                write: { connection: register, records: bunk, action: upsert, key: [no], same-names: true }
                """).toString();
        assertThat(NACHLAUF.client("job", "save", bunks).status()).isZero();
        assertThat(NACHLAUF.client("run", "start", "bunks", "--follow").status())
                .isEqualTo(3);
        chromium = new ConsoleBrowser(NACHLAUF);
    }

    @AfterAll
    static void stop() {
        chromium.close();
        NACHLAUF.close();
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private Locator row(String key) {
        return page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText(key));
    }

    @Test
    void whatIsCorrectedGoesThroughAndWhatIsSetAsideStays() {
        page.navigate(NACHLAUF.address() + "/runs/1/rejects");
        row("L-2").getByText("Correct").click();
        assertThat(button("Keep the correction")).isDisabled();
        page.getByLabel("oil").fill("9");
        button("Keep the correction").click();
        assertThat(row("L-2").getByText("corrected: oil = 9")).isVisible();

        row("L-3").getByText("Set aside").click();
        assertThat(button("Set it aside")).isDisabled();
        page.getByLabel("Why").fill("The lamp is broken");
        button("Set it aside").click();
        assertThat(row("L-3").getByText("The lamp is broken")).isVisible();

        button("Send 1 open row again").click();
        button("Send them again").click();
        assertThat(page.getByText("Sends the rejects of run 1 again.")).isVisible();
        assertThat(page.getByText("finished").first()).isVisible();
        page.navigate(NACHLAUF.address() + "/runs/1/rejects");
        assertThat(row("L-3")).isVisible();
        assertThat(row("L-2")).hasCount(0);
        assertThat(page.getByText("Send 1 open row again")).hasCount(0);
        assertThat(NACHLAUF.count("SELECT string_agg(no || ' ' || oil, ', ' ORDER BY no) FROM lamp"))
                .isEqualTo("L-1 4, L-2 9, L-4 2");
    }

    private Path download(String link) {
        return page.waitForDownload(() -> page.getByText(link, new Page.GetByTextOptions().setExact(true))
                        .click())
                .path();
    }

    @Test
    void aWorkbookIsMendedAndSentBackAndTheResultsAreDownloaded() throws IOException {
        page.navigate(NACHLAUF.address() + "/runs/2/rejects");
        page.getByText("2 value-malformed (width)").click();
        page.getByLabel("Reasons by").selectOption("value");
        assertThat(page.getByLabel("Reasons", new Page.GetByLabelOptions().setExact(true)))
                .containsText("narrow");
        Path mended = Files.createTempFile("mended", ".xlsx");
        try (XSSFWorkbook workbook = new XSSFWorkbook(Files.newInputStream(download("Mend in a workbook")));
                OutputStream out = Files.newOutputStream(mended)) {
            workbook.getSheet("Rejects").getRow(1).getCell(5).setBlank();
            workbook.getSheet("Rejects").getRow(1).getCell(5).setCellValue(95);
            workbook.write(out);
        }
        page.getByLabel("Send the mended workbook").setInputFiles(mended);
        button("Send them again").click();
        assertThat(page.getByText("Sends the rejects of run 2 again.")).isVisible();
        assertThat(page.getByText("finished").first()).isVisible();
        assertThat(NACHLAUF.count("SELECT string_agg(no || ' ' || width, ', ' ORDER BY no) FROM bunk"))
                .isEqualTo("B-1 80, B-2 95");
        page.navigate(NACHLAUF.address() + "/runs/2");
        assertThat(download("Results"))
                .content()
                .satisfies(results -> assertThat(results)
                        .startsWith("no,width,outcome,message,id\nB-1,80,inserted,,")
                        .contains("B-2,wide,rejected,width: 'wide' is not an integer. It went through with run ")
                        .contains("B-3,narrow,rejected,width: 'narrow' is not an integer.,"));
    }
}
