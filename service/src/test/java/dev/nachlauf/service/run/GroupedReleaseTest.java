package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.RejectView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.reject.Rejects;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What becomes of the other rows of a group when one can't be released, though the job has one write only. */
class GroupedReleaseTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_grouped";
    private static final String BUNKS = "hut;bunk;price\nH-1;1;12\nH-1;2;12\nH-2;1;9\nH-1;3;12\n";
    private static ServiceUnderTest service;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE bunk (hut text, no integer, price integer, PRIMARY KEY (hut, no))");
        service.connect(REGISTER);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @ParameterizedTest
    @CsvSource({
        "together, H-1/1 11 H-1/2 12 H-1/3 10 H-2/1 9, 1 changed-since-review 2 group-rejected 4 group-rejected",
        "alone, H-1/1 11 H-1/2 12 H-1/3 12 H-2/1 9, 1 changed-since-review"
    })
    void theGroupIsRefusedAsTheJobSays(String fails, String stored, String rejected) {
        // the second one is as the row has it: it is rejected with its group all the same
        CLUSTER.execute(
                REGISTER,
                "TRUNCATE bunk; INSERT INTO bunk SELECT 'H-1', no, CASE no WHEN 2 THEN 12 ELSE 10 END FROM generate_series(1, 3) no");
        String job = "bunks-" + fails;
        service.bean(Jobs.class).save("bunks.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: upload, format: { as: delimited, delimiter: ";" } }
                steps: [{ group: hut, by: [hut], line-fails: %s }]
                write:
                  connection: register
                  records: bunk
                  action: upsert
                  key: [hut, no]
                  map: { hut: hut, no: cast(bunk as integer), price: cast(price as integer) }
                """.formatted(job, fails), false, "test");
        RunView held = service.run(job, "bunks.csv", BUNKS.getBytes(StandardCharsets.UTF_8), "hold");
        CLUSTER.execute(REGISTER, "UPDATE bunk SET price = 11 WHERE no = 1");
        service.bean(Runs.class).release(held.id(), false, "Perran");
        RunView run = service.settled(held.id());
        assertThat(run.state()).isEqualTo("finished");
        assertThat(CLUSTER.query(
                        REGISTER,
                        "SELECT string_agg(hut || '/' || no || ' ' || price, ' ' ORDER BY hut, no) FROM bunk"))
                .isEqualTo(stored);
        List<RejectView> rejects = service.bean(Rejects.class)
                .list(run.id(), null, false, null, 100)
                .items();
        assertThat(String.join(
                        " ",
                        rejects.stream()
                                .map(reject -> reject.row() + " "
                                        + reject.problems().getFirst().code())
                                .toList()))
                .isEqualTo(rejected);
    }
}
