package dev.nachlauf.acceptance.console;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.Margin;
import dev.nachlauf.acceptance.Installation;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A run on a sheet of paper. */
class HandOverPageTest {
    private static final Installation NACHLAUF = Installation.own("filed");
    private static ConsoleBrowser chromium;

    private final Page page = chromium.page();

    @BeforeAll
    static void start() {
        NACHLAUF.cluster.execute(NACHLAUF.register, "CREATE TABLE lamp (no text PRIMARY KEY, oil integer)");
        NACHLAUF.connect();
        String lamps = IntStream.rangeClosed(1, 40)
                .mapToObj(lamp -> "L-" + lamp + "," + (lamp == 7 ? "much" : lamp) + "\n")
                .collect(Collectors.joining());
        NACHLAUF.write("inbox/lamps.csv", "no,oil\n" + lamps);
        String job = NACHLAUF.write("lamps.yaml", """
                nachlauf: 1
                job: lamps
                parameters: { least: { is: integer, default: 3 } }
                read: { connection: wardens-inbox, file: lamps.csv, fields: { oil: { is: integer } } }
                steps:
                  - where: oil >= :least
                write: { connection: register, records: lamp, action: upsert, key: [no], same-names: true }
                """).toString();
        assertThat(NACHLAUF.client("job", "save", job).status()).isZero();
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "INSERT INTO lamp SELECT 'L-' || n, 1000 + n FROM generate_series(30, 40) n");
        assertThat(NACHLAUF.client("run", "start", "lamps", "--set", "least=3", "--follow")
                        .status())
                .isEqualTo(3);
        chromium = new ConsoleBrowser(NACHLAUF);
    }

    @AfterAll
    static void stop() {
        chromium.close();
        NACHLAUF.close();
    }

    @Test
    void aRunIsHandedOverOnOnePage() {
        page.navigate(NACHLAUF.address() + "/runs/1");
        page.getByText("Hand over").click();
        assertThat(page.getByLabel("Facts"))
                .containsText(Pattern.compile(
                        "lamps version 1.*register lamp.*by local.*least = 3.*lamps.csv.*SHA-256 [0-9a-f]{64}"));
        assertThat(page.getByLabel("Balance")).containsText("40 = 37 passed + 2 skipped + 1 rejected");
        assertThat(page.getByLabel("Balance")).containsText("37 taken = 26 inserted + 11 updated");
        assertThat(page.getByText("Every row is accounted for. Changed fields: oil 11."))
                .isVisible();
        assertThat(page.getByLabel("Reasons")).containsText("value-malformed");
        assertThat(page.getByLabel("Samples").getByText("inserted", new Locator.GetByTextOptions().setExact(true)))
                .hasCount(5);
        assertThat(page.getByLabel("Samples")).containsText("oil 1030 → 30");
        byte[] pdf = page.pdf(new Page.PdfOptions()
                .setFormat("A4")
                .setMargin(new Margin()
                        .setTop("15mm")
                        .setBottom("15mm")
                        .setLeft("15mm")
                        .setRight("15mm")));
        long pages = Pattern.compile("/Type\\s*/Page\\b(?!s)")
                .matcher(new String(pdf, StandardCharsets.ISO_8859_1))
                .results()
                .count();
        assertThat(pages).isBetween(1L, 2L);
    }
}
