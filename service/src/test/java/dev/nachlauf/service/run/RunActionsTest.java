package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.UndoRun;
import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.ledger.Ledger;
import dev.nachlauf.service.reject.Rejects;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Inserts, updates, deletes and the limits that hold them, through the service's own beans against a real target. */
class RunActionsTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_actions";
    private static final String SPRING = "code;name;beds\nH-1;Larch;8\nH-2;Fern;9\nH-3;Stone;5\n";
    private static ServiceUnderTest service;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(
                REGISTER,
                "CREATE TABLE hut (id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, code text UNIQUE NOT NULL,"
                        + " name text, beds integer, note text, doubled integer GENERATED ALWAYS AS (beds * 2) STORED)");
        CLUSTER.execute(
                REGISTER,
                "CREATE TABLE stay (no text PRIMARY KEY, hut_id bigint NOT NULL REFERENCES hut, guests integer)");
        service.connect(REGISTER);
        Files.writeString(ServiceUnderTest.folder().resolve("actions.csv"), SPRING);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void huts() {
        job = "spring-" + ++jobs;
        CLUSTER.execute(REGISTER, "TRUNCATE hut, stay RESTART IDENTITY");
        CLUSTER.execute(
                REGISTER,
                "INSERT INTO hut (code, name, beds, note) VALUES ('H-2', 'Old fern', 4, 'kept'), ('H-3', 'Stone', 4, NULL),"
                        + " ('H-9', 'Nine', 9, NULL)");
    }

    private void save(String action, String key, String map, String more) {
        service.bean(Jobs.class).save("spring.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: actions.csv, format: { as: delimited, delimiter: ";" } }
                write:
                  connection: register
                  records: hut
                  action: %s
                  key: [%s]
                  map: %s
                %s
                """.formatted(job, action, key, map, more), false, "test");
    }

    private RunView start(String file) {
        return service.run(job, "actions.csv", file.getBytes(StandardCharsets.UTF_8), null);
    }

    private static RunView release(long id) {
        service.bean(Runs.class).release(id, true, "Perran");
        return service.settled(id);
    }

    private static String stored() {
        return CLUSTER.query(
                REGISTER, "SELECT string_agg(concat_ws(' ', code, name, beds, note), ', ' ORDER BY code) FROM hut");
    }

    private static List<String> ledger(long id) {
        return service
                .bean(Ledger.class)
                .page(service.bean(RunViews.class).ledger(id), null, null, 100)
                .items()
                .stream()
                .map(RunActionsTest::line)
                .toList();
    }

    private static String line(LedgerRowView row) {
        return row.row() + " " + row.outcome() + (row.note().isEmpty() ? "" : " (" + row.note() + ")");
    }

    @Test
    void whatIsFoundByTheSecondKeyCanBeTakenBack() {
        CLUSTER.execute(REGISTER, "ALTER TABLE hut ALTER code DROP NOT NULL");
        try {
            save("upsert", "code", "{ code: code, name: name, beds: beds }", "  or-key: [name]");
            RunView run = start("code;name;beds\nH-2;Fern;9\n;Stone;5\n;Moss;2\n");
            assertThat(run.balance().balanced()).isTrue();
            assertThat(run.balance().writes())
                    .extracting(write -> write.write() + " " + write.inserted() + " " + write.updated())
                    .containsExactly("hut 0 1", "hut (by name) 1 1");
            assertThat(stored()).isEqualTo("H-2 Fern 9 kept, H-3 Stone 5, H-9 Nine 9, Moss 2");
            RunView undo = service.settled(service.bean(RunUndoing.class)
                    .start(run.id(), new UndoRun(Map.of(), List.of()), "Perran")
                    .id());
            assertThat(undo.balance().rejected()).isZero();
            assertThat(stored()).isEqualTo("H-2 Old fern 4 kept, H-3 Stone 4, H-9 Nine 9");
        } finally {
            CLUSTER.execute(REGISTER, "DELETE FROM hut; ALTER TABLE hut ALTER code SET NOT NULL");
        }
    }

    @Test
    void anInsertLeavesWhatIsAlreadyThere() {
        save("insert", "code", "{ code: code, name: name, beds: beds }", "  already-there: skip");
        RunView run = start(SPRING);
        assertThat(run.balance().balanced()).isTrue();
        assertThat(run.balance().skipped()).isEqualTo(2);
        assertThat(run.balance().inserted()).isEqualTo(1);
        assertThat(ledger(run.id()))
                .containsExactly("1 inserted", "2 skipped (already there)", "3 skipped (already there)");
        assertThat(stored()).isEqualTo("H-1 Larch 8, H-2 Old fern 4 kept, H-3 Stone 4, H-9 Nine 9");
    }

    @Test
    void aLimitOfChangesHoldsTheRunBeforeItsFirst() {
        save("update", "code", "{ code: code, name: name, beds: beds }", "  not-found: skip\nlimits: { updated: 1 }");
        RunView run = start(SPRING);
        assertThat(run.state()).isEqualTo("held");
        assertThat(run.planned()).isTrue();
        assertThat(run.reasons())
                .extracting(ProblemView::sentence)
                .containsExactly("2 records would be changed; the job's limit is 1.");
        assertThat(run.balance().updated()).as("everything is planned").isEqualTo(2);
        assertThat(stored()).isEqualTo("H-2 Old fern 4 kept, H-3 Stone 4, H-9 Nine 9");

        run = release(run.id());
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.planned()).isFalse();
        assertThat(run.balance().updated()).isEqualTo(2);
        assertThat(run.balance().skipped()).isEqualTo(1);
        assertThat(stored()).isEqualTo("H-2 Fern 9 kept, H-3 Stone 5, H-9 Nine 9");
    }

    @Test
    void withinItsLimitARunWritesWhatItHasPlanned() {
        save("update", "code", "{ code: code, name: name, beds: beds }", "  not-found: skip\nlimits: { updated: 2 }");
        RunView run = start(SPRING);
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.releasedBy()).as("nobody had to").isNull();
        assertThat(run.balance().updated()).isEqualTo(2);
        assertThat(ledger(run.id())).containsExactly("1 skipped (not found)", "2 updated", "3 updated");
        assertThat(stored()).isEqualTo("H-2 Fern 9 kept, H-3 Stone 5, H-9 Nine 9");
    }

    @Test
    void whatIsRemovedComesBackWhole() {
        save("delete", "code", "{ code: code }", "");
        CLUSTER.execute(REGISTER, "INSERT INTO stay SELECT 'S-1', id, 2 FROM hut WHERE code = 'H-3'");
        RunView run = start(SPRING);
        assertThat(run.state()).isEqualTo("finished");
        assertThat(ledger(run.id())).containsExactly("1 unchanged", "2 deleted", "3 rejected (still-referred-to)");
        assertThat(run.balance().deleted()).isEqualTo(1);
        assertThat(run.openRejects()).isEqualTo(1);
        assertThat(stored()).isEqualTo("H-3 Stone 4, H-9 Nine 9");

        RunView undone = service.settled(service.bean(RunUndoing.class)
                .start(run.id(), new UndoRun(Map.of(), List.of()), "Perran")
                .id());
        assertThat(undone.balance().inserted()).isEqualTo(1);
        assertThat(stored()).isEqualTo("H-2 Old fern 4 kept, H-3 Stone 4, H-9 Nine 9");
    }

    @Test
    void aRecordIsRemovedByAKeyThatNobodyCanWrite() {
        save("delete", "id", "{ id: cast(beds as integer) }", "limits: { deleted: 50% }");
        RunView run = start("code;name;beds\n;;1\n;;3\n;;7\n");
        assertThat(run.state()).isEqualTo("held");
        assertThat(run.reasons())
                .extracting(ProblemView::sentence)
                .containsExactly("2 records would be removed by 3 rows; the job's limit is 50 %.");
        run = release(run.id());
        assertThat(run.balance().deleted()).isEqualTo(2);
        assertThat(ledger(run.id())).containsExactly("1 deleted", "2 deleted", "3 unchanged");
        assertThat(stored()).isEqualTo("H-3 Stone 4");
    }

    @Test
    void whatTheSourceNoLongerHasGoesAndComesBack() {
        save("replace", "code", "{ code: code, name: name, beds: beds }", "  scope: beds < 10");
        CLUSTER.execute(REGISTER, "INSERT INTO hut (code, name, beds) VALUES ('H-20', 'Large', 20)");
        RunView run = start(SPRING);
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.balance().balanced()).isTrue();
        assertThat(run.balance().taken()).isEqualTo(3);
        assertThat(run.balance().deleted()).as("no row stands behind it").isZero();
        assertThat(run.balance().writes()).extracting(WriteCountView::write).containsExactly("hut", "hut (gone)");
        assertThat(run.balance().writes().getLast().gone()).isTrue();
        assertThat(run.balance().writes().getLast().deleted()).isEqualTo(1);
        assertThat(ledger(run.id())).containsExactly("1 inserted", "2 updated", "3 updated", "0 deleted");
        assertThat(stored()).isEqualTo("H-1 Larch 8, H-2 Fern 9 kept, H-20 Large 20, H-3 Stone 5");

        RunView undone = service.settled(service.bean(RunUndoing.class)
                .start(run.id(), new UndoRun(Map.of(), List.of()), "Perran")
                .id());
        assertThat(undone.state()).isEqualTo("finished");
        assertThat(stored()).isEqualTo("H-2 Old fern 4 kept, H-20 Large 20, H-3 Stone 4, H-9 Nine 9");
    }

    /** Such records are identified by the key of the job, however those are found that could go. */
    @Test
    void whatGoesWithinAGroupIsToldApartWithoutAPrimaryKey() {
        CLUSTER.execute(
                REGISTER, "CREATE TABLE price (hut text, season text, price numeric(6, 2), UNIQUE (hut, season))");
        CLUSTER.execute(
                REGISTER,
                "INSERT INTO price VALUES ('H-1', 'summer', 8), ('H-1', 'winter', 9), ('H-1', 'spring', 7),"
                        + " ('H-2', 'summer', 5)");
        service.bean(Jobs.class).save("prices.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: actions.csv, format: { as: delimited, delimiter: ";" } }
                write:
                  connection: register
                  records: price
                  action: replace
                  within: [hut]
                  key: [hut, season]
                  map: { hut: code, season: name, price: cast(beds as decimal) }
                """.formatted(job), false, "test");
        RunView run = start("code;name;beds\nH-1;summer;8\nH-1;winter;10\n");
        assertThat(run.state()).as("%s", run.reasons()).isEqualTo("finished");
        assertThat(CLUSTER.query(
                        REGISTER,
                        "SELECT string_agg(concat_ws(' ', hut, season, price), ', ' ORDER BY hut, season) FROM price"))
                .isEqualTo("H-1 summer 8.00, H-1 winter 10.00, H-2 summer 5.00");
        CLUSTER.execute(REGISTER, "DROP TABLE price");
    }

    @Test
    void aNumberOfAnotherKindDeactivatesWhatIsGone() {
        CLUSTER.execute(REGISTER, "ALTER TABLE hut ADD price numeric(6, 2)");
        save(
                "replace",
                "code",
                "{ code: code, name: name, beds: beds }",
                "  gone: deactivate\n  deactivated: { price: 0, note: \"'gone'\" }");
        RunView run = start(SPRING);
        assertThat(run.state()).as("%s", run.reasons()).isEqualTo("finished");
        assertThat(run.balance().writes().getLast().updated()).isEqualTo(1);
        assertThat(stored()).endsWith("H-9 Nine 9 gone");
        assertThat(CLUSTER.query(REGISTER, "SELECT price FROM hut WHERE code = 'H-9'"))
                .isEqualTo("0.00");
        CLUSTER.execute(REGISTER, "ALTER TABLE hut DROP price");
    }

    @Test
    void whatReferencesForbidIsToldBeforeAnythingGoes() {
        save("replace", "code", "{ code: code, name: name, beds: beds }", "");
        CLUSTER.execute(REGISTER, "INSERT INTO hut (code, name, beds) VALUES ('H-8', 'Eight', 8)");
        CLUSTER.execute(
                REGISTER,
                "INSERT INTO stay SELECT n, id, 2 FROM hut, unnest('{S-1,S-2}'::text[]) n WHERE code = 'H-9'");
        RunView run = service.run(job, "actions.csv", SPRING.getBytes(StandardCharsets.UTF_8), "dry-run");
        assertThat(run.balance().writes().getLast().deleted()).isEqualTo(1);
        assertThat(run.balance().writes().getLast().refused()).isEqualTo(1);
        assertThat(service.bean(Rejects.class)
                        .list(run.id(), null, false, null, 100)
                        .items())
                .singleElement()
                .satisfies(reject -> {
                    assertThat(reject.key()).isEqualTo("H-9");
                    assertThat(reject.problems().getFirst().sentence()).isEqualTo("2 records of stay refer to it.");
                });
    }

    @Test
    void whatWouldGoIsHeldByItsLimitAndCanBeLookedAt() {
        save("replace", "code", "{ code: code, name: name, beds: beds }", "limits: { deleted: 0 }");
        RunView run = start(SPRING);
        assertThat(run.state()).isEqualTo("held");
        assertThat(run.reasons())
                .extracting(ProblemView::sentence)
                .containsExactly("1 record would be removed; the job's limit is 0.");
        LedgerRowView gone = service.bean(Ledger.class)
                .page(service.bean(RunViews.class).ledger(run.id()), null, null, 100)
                .items()
                .getLast();
        assertThat(gone.outcome()).isEqualTo("deleted");
        assertThat(gone.key()).containsExactly("H-9");
        CLUSTER.execute(REGISTER, "INSERT INTO stay SELECT 'S-1', id, 2 FROM hut WHERE code = 'H-9'");
        run = release(run.id());
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.balance().writes().getLast().refused()).isEqualTo(1);
        assertThat(ledger(run.id()).getLast()).isEqualTo("0 rejected (still-referred-to)");
        assertThat(stored()).contains("H-9 Nine 9");
        assertThat(run.openRejects()).isEqualTo(1);
    }
}
