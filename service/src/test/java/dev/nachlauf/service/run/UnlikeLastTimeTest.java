package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import java.util.Map;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Runs whose source, or what becomes of it, is unlike that of the runs before: told or held, never silent. */
class UnlikeLastTimeTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_last_times";
    private static ServiceUnderTest service;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, price numeric, opens date)");
        service.connect(REGISTER);
        Files.writeString(ServiceUnderTest.folder().resolve("last.csv"), usual(0));
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void twoUsualRuns() {
        job = "prices-" + ++jobs;
        save("");
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
        for (int year = 0; year < 3; year++) {
            RunView run = start(usual(year), "write");
            assertThat(run.state()).isEqualTo("finished");
            assertThat(run.warnings()).isEmpty();
        }
    }

    private void save(String more) {
        service.bean(Jobs.class).save("prices.yaml", """
                nachlauf: 1
                job: %s
                read:
                  connection: inbox
                  file: last.csv
                  format: { as: delimited, delimiter: ";" }
                  fields: { opens: { is: date, pattern: dd.MM.yyyy }, price: { is: decimal } }
                %s
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map: { code: code, price: price, opens: opens }
                """.formatted(job, more), false, "test");
    }

    private static String file(int rows, IntFunction<String> price, IntFunction<String> opens) {
        return "code;price;opens\n"
                + IntStream.rangeClosed(1, rows)
                        .mapToObj(n -> "H-" + n + ";" + price.apply(n) + ";" + opens.apply(n) + "\n")
                        .collect(Collectors.joining());
    }

    /** Four prices change each year. */
    private static String usual(int year) {
        return file(40, n -> n < 5 ? "2" + year + ".5" : "21.5", n -> (10 + n % 18) + ".05.2026");
    }

    private RunView start(String text, String mode) {
        return service.run(job, "last.csv", text.getBytes(StandardCharsets.UTF_8), mode);
    }

    private static List<String> told(List<ProblemView> problems) {
        return problems.stream().map(ProblemView::sentence).toList();
    }

    @Test
    void numbersThatHaveMovedAndTheirManyChangesAreTold() {
        RunView run = start(file(40, n -> "2150", n -> (10 + n % 18) + ".05.2026"), "write");
        assertThat(run.state()).isEqualTo("finished");
        assertThat(told(run.warnings()))
                .containsExactly(
                        "The numbers are about 100 times those of the last 3 runs: typically 2150, before 21.5.",
                        "40 of 40 rows change records, 100 %; in the last 3 runs at most 10 % did.");
        assertThat(run.warnings().getFirst().field()).isEqualTo("price");
    }

    @Test
    void aShorterSourceWithBlanksAndSwappedDatesIsTold() {
        RunView run = start(file(22, n -> n % 9 == 0 ? "" : "21.5", n -> "05." + (10 + n % 3) + ".2026"), "write");
        assertThat(told(run.warnings()))
                .containsExactly(
                        "The column is empty in 2 of 22 rows; in the last 3 runs it never was.",
                        "None of 22 dates lies behind the 12th of its month; in the last 3 runs 80 % did.",
                        "22 of 22 rows change records, 100 %; in the last 3 runs at most 10 % did.");
        run = start(file(10, n -> "21.5", n -> "20.05.2026"), "write");
        assertThat(told(run.warnings())).containsExactly("The source has 10 rows; the last 4 runs had 22 to 40.");
    }

    @Test
    void aColumnThatIsNewIsTold() {
        String wider = usual(2).replace("opens\n", "opens;town\n").replace("2026\n", "2026;Fernhead\n");
        assertThat(told(start(wider, "write").warnings()))
                .containsExactly("last.csv has the column town, and earlier runs had not.");
    }

    @Test
    void theRunIsHeldWhereTheJobSaysSo() {
        save("unlike-last-time: hold");
        String moved = file(40, n -> "2150", n -> (10 + n % 18) + ".05.2026");
        assertThat(start(moved, "dry-run").warnings())
                .extracting(ProblemView::code)
                .containsExactly("unlike-last-time", "unlike-last-time", "limit-foreseen");
        RunView run = start(moved, "write");
        assertThat(run.state()).isEqualTo("held");
        assertThat(told(run.reasons()))
                .containsExactly(
                        "2 things are unlike the last runs; the warnings say what, and the job says to hold then.");
        assertThat(CLUSTER.query(REGISTER, "SELECT max(price) FROM hut")).isEqualTo("22.5");
        service.bean(Runs.class).release(run.id(), true, "Perran");
        assertThat(service.settled(run.id()).state()).isEqualTo("finished");
        assertThat(CLUSTER.query(REGISTER, "SELECT max(price) FROM hut")).isEqualTo("2150");
    }

    @Test
    void theUsualIsNotHeld() {
        save("unlike-last-time: hold");
        RunView run = start(usual(4), "write");
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.warnings()).isEmpty();
    }

    @Test
    void aRunOverSomeRowsIsNotCompared() {
        byte[] few = file(10, n -> "21.5", n -> "20.05.2026").getBytes(StandardCharsets.UTF_8);
        String hash = service.keep("last.csv", few);
        StartRun some = new StartRun(job, hash, "last.csv", Map.of(), null, "1-9", null, null);
        assertThat(service.run(some, "Wenna").warnings()).isEmpty();
        StartRun all = new StartRun(job, hash, "last.csv", Map.of(), null, null, null, null);
        assertThat(told(service.run(all, "Wenna").warnings()))
                .containsExactly("The source has 10 rows; the last 3 runs had 40.");
    }
}
