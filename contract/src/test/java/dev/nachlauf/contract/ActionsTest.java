package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.memory.MemoryRecords;
import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.system.Writes;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What each action makes of rows whose records are there, and of those whose records are not. */
class ActionsTest {
    private static final RunPolicy WRITE = new RunPolicy(false, 2, 100_000);
    private static final String ROWS = "code;name;beds;status\nH-1;Larch;8;\nH-2;Fern;9;\nH-3;Stone;5;\n";
    private static final String MAP = "{ hut_code: code, name: name, beds: beds }";

    @TempDir
    Path scratch;

    private MemoryRecords huts;
    private Kept kept = new Kept();

    private void system(String kind) {
        huts = kind.equals("atomic") ? new MemorySystem(MemoryTargetTest.HUT) : new RecordSystem(MemoryTargetTest.HUT);
        huts.add(hut("H-2", "Fern", 4));
        huts.add(hut("H-9", "Nine", 9));
    }

    private static String job(String action, String map, String more) {
        return """
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: huts.csv }
                write:
                  connection: register
                  records: hut
                  action: %s
                  key: [hut_code]
                  map: %s
                %s
                %%s
                """.formatted(action, map, more.indent(2).stripTrailing());
    }

    private HutLoad load(String action, String map, String more) {
        return new HutLoad((Writes) huts, kept, scratch).of(job(action, map, more));
    }

    private RunResult run(String action, String map, String more) {
        RunResult result = load(action, map, more).run(ROWS, "", WRITE, new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        return result;
    }

    private List<String> lines(int keyWidth, int width) {
        return kept.rows(keyWidth, width).stream().map(ActionsTest::line).toList();
    }

    private static String line(LedgerRow row) {
        return row.number() + " " + row.outcome().word() + (row.note().isEmpty() ? "" : " (" + row.note() + ")");
    }

    @ParameterizedTest
    @ValueSource(strings = {"atomic", "by record"})
    void anInsertRejectsWhatIsAlreadyThere(String kind) {
        system(kind);
        RunResult result = run("insert", MAP, "");
        assertThat(result.balance().counts()).isEqualTo(counts(3, 0, Counts.taken(2, 0, 0, 0, 0, 1)));
        assertThat(lines(1, 3)).containsExactly("1 inserted", "2 rejected (already-there)", "3 inserted");
        assertThat(kept.rejects.getFirst().problems().getFirst().sentence())
                .isEqualTo("The target holds a record with the key H-2 already, and the job only inserts.");
        assertThat(huts.records())
                .containsExactlyInAnyOrder(
                        hut("H-1", "Larch", 8), hut("H-2", "Fern", 4), hut("H-3", "Stone", 5), hut("H-9", "Nine", 9));
    }

    @ParameterizedTest
    @ValueSource(strings = {"atomic", "by record"})
    void anInsertSkipsWhatIsAlreadyThereWhereTheJobSaysSo(String kind) {
        system(kind);
        RunResult result = run("insert", MAP, "already-there: skip");
        assertThat(result.balance().counts()).isEqualTo(counts(3, 1, Counts.taken(2, 0, 0, 0, 0, 0)));
        assertThat(result.balance().tally().steps()).containsExactly(new StepCount(3, 2, 1, 0));
        assertThat(lines(1, 3)).containsExactly("1 inserted", "2 skipped (already there)", "3 inserted");
    }

    @ParameterizedTest
    @ValueSource(strings = {"atomic", "by record"})
    void anUpdateSkipsWhatItDoesNotFindWhereTheJobSaysSo(String kind) {
        system(kind);
        RunResult result = run("update", MAP, "not-found: skip");
        assertThat(result.balance().counts()).isEqualTo(counts(3, 2, Counts.taken(0, 1, 0, 0, 0, 0)));
        assertThat(lines(1, 3)).containsExactly("1 skipped (not found)", "2 updated", "3 skipped (not found)");
    }

    @ParameterizedTest
    @ValueSource(strings = {"atomic", "by record"})
    void aDeleteRemovesWhatIsThereAndLeavesWhatIsNot(String kind) {
        system(kind);
        RunResult result = run("delete", "{ hut_code: code }", "");
        assertThat(result.balance().counts()).isEqualTo(counts(3, 0, Counts.taken(0, 0, 2, 1, 0, 0)));
        assertThat(lines(1, 3)).containsExactly("1 unchanged", "2 deleted", "3 unchanged");
        assertThat(huts.records()).containsExactly(hut("H-9", "Nine", 9));
        assertThat(kept.rows(1, 3).get(1).before())
                .as("all that it held, so that it can come back")
                .containsExactly("H-2", "Fern", 4L, null, null);
    }

    @Test
    void whatSomebodyElseRemovesMeanwhileIsNotFoundAnyMore() {
        system("atomic");
        huts.add(hut("H-1", "Larch", 2));
        ((MemorySystem) huts).meanwhile(() -> huts.remove("hut_code", "H-2"));
        RunResult result = run("update", MAP, "not-found: skip");
        assertThat(result.balance().counts()).isEqualTo(counts(3, 2, Counts.taken(0, 1, 0, 0, 0, 0)));
        assertThat(lines(1, 3)).containsExactly("1 updated", "2 skipped (not found)", "3 skipped (not found)");
    }

    @ParameterizedTest
    @ValueSource(strings = {"atomic", "by record"})
    void whatIsPlannedFirstIsWrittenOnlyWithinTheLimits(String kind) {
        system(kind);
        huts.add(hut("H-3", "Stone", 4));
        Kept planned = kept;
        HutLoad load = load("update", MAP, "not-found: skip");
        RunPolicy first = new RunPolicy(Purpose.PLAN_FIRST, false, 2, 100_000);
        RunResult result = load.run(ROWS, "limits: { updated: 2 }", first, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        kept.chunks.clear();
        result = load.run(ROWS, "limits: { updated: 1 }", first, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.HELD);
        assertThat(result.reasons().getFirst().sentence())
                .isEqualTo("2 records would be changed; the job's limit is 1.");
        assertThat(huts.records()).contains(hut("H-2", "Fern", 4), hut("H-3", "Stone", 4));

        kept = new Kept();
        result = load("update", MAP, "not-found: skip").release(ROWS, planned, row -> false, WRITE, new Quiet());
        assertThat(result.balance().counts()).isEqualTo(counts(3, 1, Counts.taken(0, 2, 0, 0, 0, 0)));
        assertThat(huts.records())
                .containsExactlyInAnyOrder(hut("H-2", "Fern", 9), hut("H-3", "Stone", 5), hut("H-9", "Nine", 9));
    }

    @Test
    void aPlannedDeleteLeavesWhatHasChangedSince() {
        system("atomic");
        RunPolicy first = new RunPolicy(Purpose.PLAN_FIRST, false, 2, 100_000);
        Kept planned = kept;
        String both = "code;name;beds;status\nH-2;;;\nH-9;;;\n";
        assertThat(load("delete", "{ hut_code: code }", "")
                        .run(both, "limits: { deleted: 50% }", first, new Quiet())
                        .reasons())
                .extracting(problem -> problem.sentence())
                .containsExactly("2 records would be removed by 2 rows; the job's limit is 50 %.");
        huts.change("hut_code", "H-2", "beds", 5L);
        kept = new Kept();
        RunResult result =
                load("delete", "{ hut_code: code }", "").release(both, planned, row -> false, WRITE, new Quiet());
        assertThat(result.balance().counts()).isEqualTo(counts(2, 0, Counts.taken(0, 0, 0, 1, 0, 1)));
        assertThat(lines(1, 3)).containsExactly("1 rejected (changed-since-review)", "2 deleted");
        assertThat(huts.records()).containsExactly(hut("H-2", "Fern", 5));
    }

    private static Counts counts(long read, long skipped, Counts taken) {
        return Counts.reading(read, skipped, 0, 0).plus(taken);
    }
}
