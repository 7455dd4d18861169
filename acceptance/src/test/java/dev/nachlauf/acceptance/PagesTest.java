package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Pages whose commands print what stands under them; {@code -Dnachlauf.pages=write} writes what they print now. */
class PagesTest {
    private static final OfficeMail MAILS = new OfficeMail();
    private static Installation nachlauf;

    /** As it is after the demo's first load. */
    @BeforeAll
    static void start() {
        nachlauf = Installation.own("pages");
        nachlauf.loadDemo();
        String list = Installation.TOP
                .resolve("demo-data/files/spring-list-2026.xlsx")
                .toString();
        assertThat(nachlauf.client("run", "start", "hut-list", "--follow", "--file", list)
                        .status())
                .isEqualTo(3);
    }

    @AfterAll
    static void stop() {
        nachlauf.close();
        MAILS.close();
    }

    /** A page that counts runs has an installation of its own; what stands in its SQL happens there. */
    @ParameterizedTest
    @ValueSource(
            strings = {"going-back", "actions", "records", "environments", "rejects", "totals", "issuing", "telling"})
    void whatAPageDoesStepByStepIsTrue(String name) throws IOException {
        try (Installation own = Installation.own(name.replace("-", ""))) {
            own.loadDemo();
            MAILS.connect(own);
            String list = Installation.TOP
                    .resolve("demo-data/files/spring-list-2026.xlsx")
                    .toString();
            own.client("run", "start", "hut-list", "--follow", "--file", list);
            follow(name, own);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"first-job", "cookbook"})
    void commandsPrintWhatStandsUnderThem(String name) throws IOException {
        follow(name, nachlauf);
    }

    private static void follow(String name, Installation nachlauf) throws IOException {
        Path file = Installation.TOP.resolve("docs/" + name + ".md");
        String page = Installation.read(file);
        String followed = new FollowedPage(nachlauf, nachlauf.inbox).follow(page);
        if ("write".equals(System.getProperty("nachlauf.pages"))) {
            Files.writeString(file, followed);
        }
        assertThat(followed).isEqualTo(page);
    }
}
