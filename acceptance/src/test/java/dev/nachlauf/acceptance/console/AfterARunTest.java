package dev.nachlauf.acceptance.console;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.nachlauf.acceptance.Installation;
import dev.nachlauf.acceptance.OfficeMail;
import dev.nachlauf.acceptance.Result;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What a run's page says when people are told of it, when it waits for a second person, and when others have its files. */
class AfterARunTest {
    private static final Installation NACHLAUF = Installation.own("afterarun");
    private static final OfficeMail MAILS = new OfficeMail();
    private static ConsoleBrowser chromium;

    private final Page page = chromium.page();

    @BeforeAll
    static void start() {
        NACHLAUF.connect();
        MAILS.connect(NACHLAUF);
        String register = NACHLAUF.write("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: %s, user: %s, password: { env: NACHLAUF_SECRET_REGISTER } }
                marks: { warden: { phone: { sensitive: true } } }
                """.formatted(
                                NACHLAUF.cluster.port(), NACHLAUF.register, PrivateCluster.ADMIN))
                .toString();
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "CREATE TABLE warden (no text PRIMARY KEY, phone text, age integer)");
        assertThat(NACHLAUF.client("connection", "save", register).status()).isZero();
        save("wardens", """
                read: { upload: wardens, fields: { age: { is: integer } } }
                write: { connection: register, records: warden, action: upsert, key: [no], map: { no: no, phone: phone, age: age } }
                tell:
                  - { by: office-mail, when: [rejects] }
                  - { by: office-mail, when: [rejects], to: [nobody@guides-union.example] }
                """);
        save("list", """
                read: { upload: wardens }
                write:
                  connection: wardens-inbox
                  file: list-${run}.csv
                  action: issue
                  key: [no]
                  map: { no: no, age: age }
                """);
        chromium = new ConsoleBrowser(NACHLAUF);
    }

    private static void save(String job, String text) {
        String file = NACHLAUF.write(job + ".yaml", "nachlauf: 1\njob: " + job + "\n" + text)
                .toString();
        Result saved = NACHLAUF.client("job", "save", file);
        assertThat(saved.status()).as(saved.toString()).isZero();
    }

    @BeforeEach
    void oneWarden() {
        NACHLAUF.cluster.execute(NACHLAUF.register, "TRUNCATE warden; INSERT INTO warden VALUES ('W-1', '555', 40)");
    }

    @AfterAll
    static void stop() {
        chromium.close();
        NACHLAUF.close();
        MAILS.close();
    }

    /** The number of a run of the job over these rows. */
    private static String run(String job, String rows) {
        String file = NACHLAUF.write("wardens.csv", "no,phone,age\n" + rows).toString();
        return NACHLAUF.client("--output", "json", "run", "start", job, "--file", file, "--follow")
                .json()
                .get("id")
                .asString();
    }

    private void open(String run) {
        page.navigate(NACHLAUF.address() + "/runs/" + run);
    }

    private Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    @Test
    void whoeverCouldNotBeToldIsToldAgain() {
        String run = run("wardens", "W-1,555,many\nW-2,556,30\n");
        open(run);
        assertThat(page.getByText("Told over office-mail (rejects): Sent to office@guides-union.example."))
                .isVisible();
        assertThat(page.getByText("Nobody could be told over office-mail (rejects): "))
                .containsText("550 no such mailbox");
        assertThat(MAILS.mails())
                .singleElement()
                .satisfies(mail -> assertThat(mail.source()).contains("Run " + run + " of wardens has left 1 reject"));
        assertThat(NACHLAUF.client("run", "log", run).out()).containsOnlyOnce("550 no such mailbox");
        button("Tell them again").click();
        page.waitForCondition(() -> NACHLAUF.client("run", "log", run)
                        .out()
                        .lines()
                        .filter(line -> line.contains("550 no such mailbox"))
                        .count()
                == 2);
        assertThat(button("Tell them again")).isEnabled();
    }

    @Test
    void aChangeOfASensitiveValueIsLeftToSomebodyElse() {
        String run = run("wardens", "W-1,777,40\n");
        open(run);
        assertThat(page.getByText("1 value of a sensitive field would change (phone 1)."))
                .isVisible();
        assertThat(page.getByText("phone ••• → •••")).isVisible();
        assertThat(button("Write what is planned")).isDisabled();
        String token = NACHLAUF.client("token", "save", "registrar", "--role", "run", "--sees-sensitive")
                .out()
                .strip();
        page.context().addCookies(List.of(ConsoleBrowser.session(NACHLAUF, token)));
        open(run);
        assertThat(page.getByText("phone 555 → 777")).isVisible();
        button("Write what is planned").click();
        button("Write it").click();
        assertThat(page.getByText("released by registrar")).isVisible();
        assertThat(page.getByText("1 taken = 1 updated")).isVisible();
        assertThat(NACHLAUF.count("SELECT phone FROM warden")).isEqualTo("777");
    }

    @Test
    void whatWasHandedOverIsComparedWithAnExport() {
        open(run("list", "W-1,555,40\nW-2,556,30\nW-3,557,20\n"));
        page.getByLabel("Compare with an export")
                .setInputFiles(NACHLAUF.write("export.csv", "no,age\nW-1,40\nW-2,31\nW-9,9\n"));
        assertThat(page.getByText(
                        "3 rows issued: 1 confirmed by export.csv, 1 different, 1 missing there; 1 other row"))
                .isVisible();
        Locator rows = page.getByRole(
                        AriaRole.TABLE, new Page.GetByRoleOptions().setName("Rows that differ or are missing"))
                .locator("tbody tr");
        assertThat(rows).hasCount(2);
        assertThat(rows.first()).containsText("age 30 → 31");
    }
}
