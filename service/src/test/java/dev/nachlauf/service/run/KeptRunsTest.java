package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.reject.Rejects;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionTemplate;

/** Runs through the service's own beans against a real target: what is kept of them, told of them, and settled later. */
class KeptRunsTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_runs";
    private static ServiceUnderTest service;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, name text, beds integer)");
        service.connect(REGISTER);
        java.nio.file.Files.writeString(ServiceUnderTest.folder().resolve("seen.csv"), huts(1));
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void job() {
        job = "huts-" + ++jobs;
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: seen.csv }
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  same-names: true
                """.formatted(job), false, "test");
    }

    private RunView load(String csv) throws IOException {
        return load("huts.csv", csv.getBytes(StandardCharsets.UTF_8));
    }

    /** The run when it has ended or is held. */
    private RunView load(String name, byte[] file) throws IOException {
        String hash = service.keep(name, file);
        return service.run(new StartRun(job, hash, name, Map.of(), null), "test");
    }

    private static String huts(int count) {
        StringBuilder csv = new StringBuilder("code;name;beds\n");
        IntStream.rangeClosed(1, count).forEach(n -> csv.append("H-%03d;Hut %d;%d\n".formatted(n, n, n)));
        return csv.toString();
    }

    private static String there() {
        return CLUSTER.query(REGISTER, "SELECT count(*) FROM hut");
    }

    @Test
    void aTargetThatWasReplacedInTheMiddleOfARunIsNotWrittenTo() throws IOException {
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: seen.csv }
                write: { connection: register, records: hut, action: upsert, key: [code], same-names: true }
                limits: { rejected: 20 }
                """.formatted(job), false, "test");
        CLUSTER.execute(REGISTER, "ALTER TABLE hut ADD CONSTRAINT few CHECK (beds <= 200)");
        try (PrivateCluster restored = PrivateCluster.start()) {
            restored.createDatabase(REGISTER);
            restored.execute(
                    REGISTER,
                    "CREATE TABLE hut (code text PRIMARY KEY, name text, beds integer CONSTRAINT few CHECK (beds <= 200))");
            RunView held = load(huts(350));
            assertThat(held.state()).isEqualTo("held");
            long written = held.balance().inserted();
            assertThat(written).isEqualTo(Long.parseLong(there()));
            service.connect(REGISTER, restored);
            service.bean(Runs.class).release(held.id(), true, "test");
            RunView run = service.settled(held.id());
            assertThat(run.state()).isEqualTo("failed");
            assertThat(run.reasons()).extracting(ProblemView::code).containsExactly(ProblemCode.TARGET_RESTORED.id());
            assertThat(run.balance().inserted()).isEqualTo(written);
            assertThat(restored.query(REGISTER, "SELECT count(*) FROM hut")).isEqualTo("0");
        } finally {
            service.connect(REGISTER);
            CLUSTER.execute(REGISTER, "ALTER TABLE hut DROP CONSTRAINT few");
        }
    }

    @Test
    void filesOfOneNameInTwoFoldersOfAnArchiveAreBothRead() throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            for (String part : List.of("north", "south")) {
                zip.putNextEntry(new ZipEntry(part + "/list.csv"));
                zip.write(("code;name;beds\n" + part + "-1;One;1\n" + part + "-2;Two;2\n")
                        .getBytes(StandardCharsets.UTF_8));
            }
        }
        RunView run = load("huts.zip", bytes.toByteArray());
        assertThat(run.state()).as(run.reasons().toString()).isEqualTo("finished");
        assertThat(run.balance().read()).isEqualTo(4);
        assertThat(CLUSTER.query(REGISTER, "SELECT string_agg(code, ' ' ORDER BY code) FROM hut"))
                .isEqualTo("north-1 north-2 south-1 south-2");
    }

    @Test
    void runsAreNumberedWithoutGaps() throws IOException {
        long first = load(huts(1)).id();
        assertThat(load(huts(2)).id()).isEqualTo(first + 1);
    }

    @Test
    void aColumnThatIsLostIsToldAndAnotherFileIsRefused() throws IOException {
        assertThat(load(huts(3)).warnings()).isEmpty();
        RunView second = load("code;name\nH-001;New\n");
        assertThat(second.warnings()).extracting(ProblemView::code).containsExactly(ProblemCode.COLUMN_LOST.id());
        assertThat(CLUSTER.query(REGISTER, "SELECT beds FROM hut WHERE code = 'H-001'"))
                .isEqualTo("1");
        RunView other = load("stay;nights\n1;2\n");
        assertThat(other.state()).isEqualTo("failed");
        assertThat(other.reasons()).extracting(ProblemView::code).containsExactly(ProblemCode.FILE_HEADER.id());
    }

    @Test
    void aKeyThatHoldsNulIsARejectAndNoEndOfTheRun() throws IOException {
        RunView run = load(huts(2) + "H\0003;Nul;3\n");
        assertThat(run.state()).as(run.reasons().toString()).isEqualTo("finished");
        assertThat(run.balance().inserted()).isEqualTo(2);
        assertThat(service.bean(Rejects.class)
                        .list(run.id(), null, false, null, 10)
                        .items())
                .singleElement()
                .satisfies(reject -> assertThat(reject.key()).isEqualTo("H␀3"));
    }

    @Test
    void keysThatAreEqualOnlyToTheTargetAreFoundAcrossBatches() throws IOException {
        CLUSTER.execute(
                REGISTER, "CREATE EXTENSION IF NOT EXISTS citext; ALTER TABLE hut ALTER COLUMN code TYPE citext");
        try {
            RunView run = load(huts(350) + "h-001;Again;1\n");
            assertThat(run.balance().rejected()).isEqualTo(2);
            assertThat(run.balance().inserted()).isEqualTo(349);
            assertThat(service.bean(Rejects.class)
                            .list(run.id(), null, false, null, 10)
                            .items())
                    .extracting(reject ->
                            reject.row() + " " + reject.problems().getFirst().code())
                    .containsExactlyInAnyOrder("1 key-repeated", "351 key-repeated");
        } finally {
            CLUSTER.execute(REGISTER, "ALTER TABLE hut ALTER COLUMN code TYPE text");
        }
    }

    @Test
    void whatTheTargetSpellsInItsOwnWayIsUnchangedTheNextTime() throws IOException {
        CLUSTER.execute(REGISTER, "ALTER TABLE hut ADD COLUMN doc jsonb, ADD COLUMN share double precision");
        try {
            String csv =
                    "code;name;beds;doc;share\nH-1;One;1;{'b':1,  'a':2};0.12345678901234567890\n".replace('\'', '"');
            assertThat(load(csv.replace("{\"b\":1,  \"a\":2}", "\"{\"\"b\"\":1,  \"\"a\"\":2}\""))
                            .balance()
                            .inserted())
                    .isEqualTo(1);
            RunView again = load(csv.replace("{\"b\":1,  \"a\":2}", "\"{\"\"b\"\":1,\"\"a\"\":2 }\""));
            assertThat(again.balance().unchanged())
                    .as(again.changedFields().toString())
                    .isEqualTo(1);
        } finally {
            CLUSTER.execute(REGISTER, "ALTER TABLE hut DROP COLUMN doc, DROP COLUMN share");
        }
    }

    @Test
    void whatAHeldRunForeseesIsTakenBackWhenItIsReleased() throws IOException {
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: seen.csv }
                write: { connection: register, records: hut, action: upsert, key: [code], same-names: true }
                limits: { rejected: 1 }
                """.formatted(job), false, "test");
        RunView held = load(huts(4) + "H-8;Eight;many\nH-9;Nine;many\n");
        assertThat(held.openRejects()).isEqualTo(2);
        CLUSTER.execute(REGISTER, "ALTER TABLE hut RENAME TO hut_before");
        service.bean(Runs.class).release(held.id(), true, "test");
        RunView run = service.settled(held.id());
        CLUSTER.execute(REGISTER, "ALTER TABLE hut_before RENAME TO hut");
        assertThat(run.state()).isEqualTo("failed");
        assertThat(run.openRejects()).isZero();
        assertThat(run.balance().unreached()).isEqualTo(6);
    }

    @Test
    void aWatermarkNeverGoesBack() throws IOException {
        load(huts(1));
        RunInput input = service.bean(RunInput.class);
        TransactionTemplate transactions = service.bean(TransactionTemplate.class);
        long id = Long.parseLong(service.query("SELECT id FROM job WHERE name = '" + job + "'"));
        RunEntity run = new RunEntity();
        run.jobId = id;
        run.id = anyRun();
        for (String value : java.util.List.of("2026-06-02 10:00:00", "2026-06-03 10:00:00", "2026-06-01 10:00:00")) {
            run.watermark = value;
            transactions.executeWithoutResult(status -> input.moveWatermark(run));
        }
        assertThat(service.query("SELECT value FROM job_watermark WHERE job_id = " + id))
                .isEqualTo("2026-06-03 10:00:00");
    }

    private static long anyRun() {
        return Long.parseLong(service.query("SELECT max(id) FROM run"));
    }

    /** As a run leaves it that ended before it could ask: its batch is pending, with a token of another time. */
    private static void leaveInDoubt(RunView run) {
        service.execute("UPDATE ledger_chunk SET state = 'pending', tokens = '{\"0\":\"0 0 0 1 1\"}' WHERE run_id = "
                + run.id());
        // without sums, as runs of earlier versions are: whoever looks adds its ledger up
        service.execute("UPDATE run SET state = 'failed', totals = NULL, tally = NULL, changed_fields = NULL"
                + " WHERE id = " + run.id());
    }

    @Test
    void rowsInDoubtAreCountedApartAndAskedAboutLater() throws IOException {
        RunView run = load(huts(5));
        leaveInDoubt(run);
        RunView doubtful = service.bean(RunViews.class).show(run.id());
        assertThat(doubtful.balance().unknown()).isEqualTo(5);
        assertThat(doubtful.balance().inserted()).isZero();
        assertThat(doubtful.balance().unreached()).isZero();
        service.bean(RunEnding.class).settleLater(run.id());
        assertThat(service.bean(RunViews.class).show(run.id()).balance().inserted())
                .isEqualTo(5);
        assertThat(service.bean(RunViews.class).show(run.id()).balance().unknown())
                .isZero();
    }

    @Test
    void theRowOfARunHoldsTheSumsOfItsLedger() throws IOException {
        RunView run = load(huts(350) + "H-8;Eight;many\nH-9;Nine;many\n");
        assertThat(service.query("SELECT (totals::json->'counts'->>'inserted') || ' ' || (totals::json->>'inDoubt')"
                        + " || ' ' || open_rejects FROM run WHERE id = " + run.id()))
                .isEqualTo("350 0 2");
        assertThat(run.openRejects()).isEqualTo(2);
        service.execute("UPDATE run SET totals = NULL, tally = NULL, changed_fields = NULL WHERE id = " + run.id());
        assertThat(service.bean(RunViews.class).show(run.id()).balance())
                .as("added up from the ledger")
                .isEqualTo(run.balance());
        assertThat(service.bean(RunViews.class).list(job, null, 10).items())
                .hasSize(1)
                .allSatisfy(line -> assertThat(line.balance().inserted()).isEqualTo(350));
    }

    @Test
    void rowsInDoubtThatAreNotThereWereNeverReached() throws IOException {
        RunView run = load(huts(5));
        leaveInDoubt(run);
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
        service.bean(RunEnding.class).settleLater(run.id());
        RunView settled = service.bean(RunViews.class).show(run.id());
        assertThat(settled.balance().inserted()).isZero();
        assertThat(settled.balance().unreached()).isEqualTo(5);
        assertThat(there()).isEqualTo("0");
    }

    @Test
    void rowsInDoubtAreSettledThoughAColumnIsGoneAndStayInDoubtWithoutTheTable() throws IOException {
        RunView run = load(huts(5));
        leaveInDoubt(run);
        CLUSTER.execute(REGISTER, "ALTER TABLE hut RENAME TO hut_before");
        RunEnding ending = service.bean(RunEnding.class);
        assertThatThrownBy(() -> ending.settleLater(run.id())).isInstanceOf(RunEnding.StillInDoubt.class);
        assertThat(service.bean(RunViews.class).show(run.id()).balance().unknown())
                .isEqualTo(5);
        CLUSTER.execute(REGISTER, "ALTER TABLE hut_before RENAME TO hut; ALTER TABLE hut DROP COLUMN beds");
        ending.settleLater(run.id());
        assertThat(service.bean(RunViews.class).show(run.id()).balance().inserted())
                .isEqualTo(5);
        CLUSTER.execute(REGISTER, "ALTER TABLE hut ADD COLUMN beds integer");
    }

    @Test
    void aBalanceIsShownAsItWasProvenAndNotMadeToFit() throws IOException {
        RunView run = load(huts(5));
        assertThat(run.balance().balanced()).isTrue();
        RunViews runs = service.bean(RunViews.class);
        service.execute("UPDATE run SET rows_read = 4 WHERE id = " + run.id());
        assertThat(runs.show(run.id()).balance().balanced())
                .as("more outcomes than rows")
                .isFalse();
        assertThat(runs.show(run.id()).balance().read()).isEqualTo(4);
        service.execute("UPDATE run SET rows_read = 5, balanced = false WHERE id = " + run.id());
        assertThat(runs.show(run.id()).balance().balanced())
                .as("what the run itself found")
                .isFalse();
    }

    @Test
    void ourOwnSessionsHoldNothingForEverAndCommitToDisk() {
        Map<String, String> wanted = Map.of(
                "synchronous_commit", "on",
                "lock_timeout", "20s",
                "idle_in_transaction_session_timeout", "30s",
                "tcp_user_timeout", "25000");
        wanted.forEach((setting, value) ->
                assertThat(service.query("SHOW " + setting)).as(setting).isEqualTo(value));
    }

    @Test
    void aKeptFileThatWasDamagedEndsTheRunBeforeAnythingIsWritten() throws IOException {
        FileStore files = service.bean(FileStore.class);
        String hash = files.keep("huts.csv", new ByteArrayInputStream(huts(3).getBytes(StandardCharsets.UTF_8)))
                .hash();
        files.verify(hash);
        java.nio.file.Path kept =
                service.home().resolve("files").resolve(hash.substring(0, 2)).resolve(hash);
        java.nio.file.Files.writeString(kept, huts(2));
        assertThatThrownBy(() -> files.verify(hash))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.FILE_MALFORMED));
        java.nio.file.Files.writeString(kept, huts(3));
    }
}
