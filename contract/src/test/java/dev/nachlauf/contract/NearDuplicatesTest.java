package dev.nachlauf.contract;

import static dev.nachlauf.contract.HutLoad.hut;
import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** New records that equal a stored one in everything but the key. */
class NearDuplicatesTest {
    private static final String ROWS =
            "code;name;beds;status\nH-1;Larch;8;\nh-2;Fern;9;\nH-3;Fern;8;\nH-4;Stone;;\nH-5;Moss;1;\n";

    @TempDir
    Path scratch;

    private final MemorySystem huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept kept = new Kept();

    @BeforeEach
    void huts() {
        huts.add(hut("H-1", "Larch", 4));
        huts.add(hut("H-2", "Fern", 9));
        huts.add(hut("S-4", "Stone", 4));
    }

    private RunResult run(Purpose purpose, int batchRows, String guard) {
        return run(ROWS, purpose, batchRows, guard);
    }

    private RunResult run(String rows, Purpose purpose, int batchRows, String guard) {
        RunPolicy policy = new RunPolicy(purpose, false, batchRows, 100_000);
        return new HutLoad(huts, kept, scratch).run(rows, "near-duplicates: " + guard, policy, new Quiet());
    }

    /** A look reads the whole table, so where they are only told two batches are looked at. */
    @ParameterizedTest
    @CsvSource({"1, the first 2", "100, 3"})
    void areToldWithExamplesAndBesideTheirRows(int batchRows, String lookedAt) {
        RunResult result = run(Purpose.WRITE, batchRows, "warn");
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().counts().inserted()).isEqualTo(4);
        assertThat(result.warnings())
                .extracting(Problem::sentence)
                .as("a hut with a name alone is alike by chance, and so is no row that finds its record")
                .containsExactly(
                        "1 of " + lookedAt + " new records equals a stored one in everything but a part of the key:"
                                + " row 2 (h-2) is like H-2.");
        assertThat(kept.rows(1, 3))
                .filteredOn(line -> line.note().equals("near-duplicate"))
                .extracting(LedgerRow::number)
                .containsExactly(2L);
    }

    /** Row 5 and row 200 are like H-2; of two batches that are looked at by two writers either may be the first. */
    @ParameterizedTest
    @CsvSource({"150, 1 of the first 150 new records equals", "1000, 2 of the first 200 new records equal"})
    void enoughOfThemAreLookedAtOnce(int batchRows, String said) {
        StringBuilder rows = new StringBuilder("code;name;beds;status\n");
        for (int i = 1; i <= 300; i++) {
            rows.append("N-").append(i).append(i == 5 || i == 200 ? ";Fern;9;\n" : ";Name " + i + ";" + i + ";\n");
        }
        assertThat(run(rows.toString(), Purpose.WRITE, batchRows, "warn").warnings())
                .singleElement()
                .satisfies(warning ->
                        assertThat(warning.sentence()).startsWith(said).contains(") is like H-2"));
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 100})
    void holdTheRunWhereTheJobSaysSo(int batchRows) {
        RunResult result = run(Purpose.PLAN_FIRST, batchRows, "hold");
        assertThat(result.state()).isEqualTo(RunState.HELD);
        assertThat(result.reasons()).extracting(Problem::code).containsExactly(ProblemCode.GUARD_HELD);
        assertThat(result.warnings()).isEmpty();
        assertThat(huts.records()).hasSize(3);
    }

    @Test
    void aDryRunTellsThatTheyWouldHoldTheRun() {
        RunResult result = run(Purpose.DRY_RUN, 100, "hold");
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.warnings()).extracting(Problem::code).containsExactly(ProblemCode.LIMIT_FORESEEN);
    }

    @Test
    void areNotLookedForWhereTheyMeanNothing() {
        assertThat(run(Purpose.WRITE, 100, "allow").warnings()).isEmpty();
    }
}
