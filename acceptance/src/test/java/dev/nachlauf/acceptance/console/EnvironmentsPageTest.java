package dev.nachlauf.acceptance.console;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.nachlauf.acceptance.Installation;
import dev.nachlauf.acceptance.Result;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A job is tried in one environment, promoted, and run in the live one: all in the browser. */
class EnvironmentsPageTest {
    private static final Installation NACHLAUF = Installation.own("places");
    private static ConsoleBrowser chromium;

    private final Page page = chromium.page();

    @BeforeAll
    static void start() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE sign (no text PRIMARY KEY); CREATE TABLE sign_on_trial (no text PRIMARY KEY)");
        NACHLAUF.connect();
        NACHLAUF.write("inbox/signs.csv", "no\nS-1\nS-2\n");
        save("environment", "trial", "environment: trial\nvalues: { signs: sign_on_trial }\n");
        save(
                "environment",
                "live",
                "environment: live\ntitle: The register itself\nlive: true\nvalues: { signs: sign }\n");
        save("job", "signs", """
                job: signs
                parameters: { signs: { is: text } }
                read: { connection: wardens-inbox, file: signs.csv }
                write: { connection: register, records: "${signs}", action: upsert, key: [no], same-names: true }
                """);
        chromium = new ConsoleBrowser(NACHLAUF);
    }

    private static void save(String group, String name, String document) {
        String file = NACHLAUF.write(name + ".yaml", "nachlauf: 1\n" + document).toString();
        Result saved = NACHLAUF.client(group, "save", file, "--environment", "trial");
        assertThat(saved.status()).as(saved.toString()).isZero();
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

    private void choose(String environment) {
        page.getByLabel("Environment").selectOption(environment);
    }

    @Test
    void whatWasTriedIsPromotedAndALiveOneAsksTwice() {
        page.navigate(NACHLAUF.address() + "/jobs/signs");
        assertThat(page.getByText("There are 2 environments. Choose one on the left"))
                .isVisible();
        assertThat(page.getByText("Nothing runs in live yet: no version was promoted to it."))
                .isVisible();
        choose("trial");
        button("Start a run").click();
        button("Start").click();
        assertThat(page.getByText("version 1 in trial")).isVisible();
        assertThat(page.locator(".live-edge")).hasCount(0);

        choose("live");
        assertThat(page.getByText("You are in live (The register itself). This is live: what runs here counts."))
                .isVisible();
        page.navigate(NACHLAUF.address() + "/jobs/signs");
        button("Promote version 1").click();
        assertThat(button("Promote it")).isDisabled();
        page.getByLabel("What changes, and why").fill("Signs of the new trail");
        assertThat(button("Promote it")).isDisabled();
        page.getByLabel("Yes, in live").check();
        button("Promote it").click();
        assertThat(page.getByText("Version 1 runs in live")).isVisible();

        button("Start a run").click();
        assertThat(button("Start")).isDisabled();
        page.getByLabel("Yes, in live").check();
        button("Start").click();
        assertThat(page.getByText("version 1 in live")).isVisible();
        button("Undo the run").click();
        assertThat(button("Take it back")).isDisabled();
        page.getByLabel("Yes, in live").check();
        assertThat(button("Take it back")).isEnabled();
        assertThat(NACHLAUF.cluster.query(
                        NACHLAUF.register, "SELECT (SELECT count(*) FROM sign) + (SELECT count(*) FROM sign_on_trial)"))
                .isEqualTo("4");
    }
}
