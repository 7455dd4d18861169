package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.memory.MemoryRecords;
import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Reject;
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
import org.junit.jupiter.params.provider.CsvSource;

/** Rows whose key has an empty part find their records by the second key that the job names. */
class OrKeyTest {
    private static final String JOB = """
            nachlauf: 1
            job: huts
            read: { connection: inbox, file: huts.csv }
            write:
              connection: register
              records: hut
              action: %s
              key: [hut_code]
              or-key: [name]
              map: { hut_code: code, name: name, beds: beds }
            %%s
            """;
    private static final String HEADER = "code;name;beds;status\n";
    private static final String ROWS = HEADER + "H-1;Larch;8;\n;Fern;9;\n;Stone;5;\nH-4;;2;\n;;1;\n";

    @TempDir
    Path scratch;

    private MemoryRecords huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept planned = new Kept();
    private Kept kept = new Kept();

    private static RunPolicy policy(Purpose purpose, int batchRows) {
        return new RunPolicy(purpose, false, batchRows, 100_000);
    }

    private HutLoad load(Kept to, String action) {
        return new HutLoad((Writes) huts, to, scratch).of(JOB.formatted(action));
    }

    private RunResult run(String action, String rows, int batchRows) {
        RunResult result = load(kept, action).run(rows, "", policy(Purpose.WRITE, batchRows), new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        return result;
    }

    private List<String> codes() {
        return kept.rejects.stream()
                .map(reject -> reject.number() + " "
                        + reject.problems().stream()
                                .map(Problem::code)
                                .map(ProblemCode::id)
                                .toList())
                .sorted()
                .toList();
    }

    @ParameterizedTest
    @CsvSource({"atomic, 1", "atomic, 100", "by record, 1", "by record, 100"})
    void theRecordIsFoundByTheSecondKeyAndKeepsItsFirst(String kind, int batchRows) {
        if (kind.equals("by record")) {
            huts = new RecordSystem(MemoryTargetTest.HUT);
        }
        huts.add(hut("H-2", "Fern", 4));
        RunResult result = run("upsert", ROWS, batchRows);
        assertThat(huts.records()).containsExactlyInAnyOrder(hut("H-2", "Fern", 9), hut("H-1", "Larch", 8));
        assertThat(codes())
                .as("a new record needs its code, a name can't be empty, and neither can both keys")
                .containsExactly("3 [required-empty]", "4 [required-empty]", "5 [key-empty]");
        assertThat(result.balance().counts().inserted()).isEqualTo(1);
        assertThat(result.balance().tally().writes().get(1).updated()).isEqualTo(1);
    }

    @Test
    void anUpdateByTheSecondKeyRejectsWhatItDoesNotFind() {
        huts.add(hut("H-2", "Fern", 4));
        run("update", HEADER + ";Fern;9;\n;Moss;5;\nH-3;Stone;5;\n", 100);
        assertThat(huts.records()).containsExactly(hut("H-2", "Fern", 9));
        assertThat(codes()).containsExactly("2 [not-found]", "3 [not-found]");
    }

    @Test
    void aDeleteFindsByEitherKey() {
        huts.add(hut("H-2", "Fern", 4));
        huts.add(hut("H-3", "Stone", 4));
        huts.add(hut("H-4", "Moss", 4));
        run("delete", HEADER + ";Fern;9;\nH-3;Any;5;\n", 100);
        assertThat(huts.records()).containsExactly(hut("H-4", "Moss", 4));
    }

    @ParameterizedTest
    @CsvSource({"1", "100"})
    void aSecondKeyThatStandsTwiceRejectsItsRows(int batchRows) {
        huts.add(hut("H-2", "Fern", 4));
        run("upsert", HEADER + ";Fern;9;\nH-5;Fern;1;\n;Fern;8;\n", batchRows);
        assertThat(kept.rejects).extracting(Reject::number).containsExactlyInAnyOrder(1L, 3L);
        assertThat(codes()).containsExactly("1 [key-repeated]", "3 [key-repeated]");
        assertThat(huts.records()).containsExactlyInAnyOrder(hut("H-2", "Fern", 4), hut("H-5", "Fern", 1));
    }

    @Test
    void aKeyThatCannotBeComputedIsTold() {
        String job = JOB.formatted("upsert")
                .replace("hut_code: code,", "hut_code: cast(1 / (char_length(name) - 4) as text),");
        new HutLoad((Writes) huts, kept, scratch)
                .of(job)
                .run(HEADER + "x;Fern;9;\n", "", policy(Purpose.WRITE, 100), new Quiet());
        assertThat(codes()).containsExactly("1 [division-by-zero]");
    }

    @Test
    void whatWasReviewedIsWrittenByTheSameKey() {
        huts.add(hut("H-2", "Fern", 4));
        load(planned, "upsert").run(ROWS, "", policy(Purpose.REVIEW, 2), new Quiet());
        assertThat(huts.records()).containsExactly(hut("H-2", "Fern", 4));
        RunResult released =
                load(kept, "upsert").release(ROWS, planned, row -> false, policy(Purpose.WRITE, 2), new Quiet());
        assertThat(released.balance().gap()).isEmpty();
        assertThat(huts.records()).containsExactlyInAnyOrder(hut("H-2", "Fern", 9), hut("H-1", "Larch", 8));
    }
}
