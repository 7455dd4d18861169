package dev.nachlauf.acceptance.console;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.Cookie;
import com.microsoft.playwright.options.ReducedMotion;
import dev.nachlauf.acceptance.Installation;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** A headless Chromium that is signed in to an installation. */
final class ConsoleBrowser implements AutoCloseable {
    /** In milliseconds; other processes of tests may need the machine as much. */
    private static final double PATIENCE = 120_000;

    private final Playwright playwright;
    private final Browser browser;
    private final Cookie session;
    private final List<String> refused = new ArrayList<>();

    ConsoleBrowser(Installation nachlauf) {
        session = session(nachlauf, nachlauf.token());
        PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE);
        playwright = Playwright.create(
                new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
        List<String> arguments = new ArrayList<>(List.of(
                "--disable-dev-shm-usage",
                "--disable-gpu",
                "--disable-quic",
                "--no-first-run",
                "--disable-background-networking",
                "--disable-component-update",
                "--disable-sync"));
        if ("root".equals(System.getProperty("user.name"))) {
            arguments.add("--no-sandbox");
        }
        String chromium =
                Objects.requireNonNullElse(System.getenv("NACHLAUF_CHROMIUM"), "/usr/bin/chromium-headless-shell");
        browser = playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of(chromium))
                        .setArgs(arguments));
    }

    /** A new page, signed in, on which nothing moves: a dialog that still slides is easily missed by a click. */
    Page page() {
        Page page = browser.newPage(
                new Browser.NewPageOptions().setViewportSize(1280, 800).setReducedMotion(ReducedMotion.REDUCE));
        page.setDefaultTimeout(PATIENCE);
        page.context().addCookies(List.of(session));
        refused.clear();
        page.onConsoleMessage(message -> {
            if (message.text().contains("Content Security Policy")) {
                refused.add(message.text());
            }
        });
        return page;
    }

    /** What the page's own policy has refused since the last page was made. */
    List<String> refused() {
        return refused;
    }

    Browser browser() {
        return browser;
    }

    /** The session of a browser, as the service gives it for a token. */
    static Cookie session(Installation nachlauf, String token) {
        HttpResponse<String> opened = nachlauf.post("/session", "{\"token\":\"" + token + "\"}", "application/json");
        String[] cookie =
                opened.headers().firstValue("Set-Cookie").orElseThrow().split("[=;]", 3);
        return new Cookie(cookie[0], cookie[1]).setUrl(nachlauf.address());
    }

    @Override
    public void close() {
        browser.close();
        playwright.close();
    }
}
