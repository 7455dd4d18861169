package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Runs about some rows of their source, and runs that write the first ones before the others. */
class ChosenRowsTest {
    private static final RunPolicy WRITE = new RunPolicy(false, 2, 100_000);
    private static final String SIX = "code;name;beds;status\nH-1;Larch;8;\nH-2;Fern;9;\nH-3;Stone;many;\nH-4;Moss;7\n"
            + "H-5;Ivy;7;closed\nH-6;Oak;3;\n";

    @TempDir
    Path scratch;

    private final MemorySystem huts = new MemorySystem(MemoryTargetTest.HUT);
    private final Kept kept = new Kept();

    private RunResult run(HutLoad load, RunPolicy policy) {
        RunResult result = load.run(SIX, "", policy, new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    private HutLoad load() {
        return new HutLoad(huts, kept, scratch);
    }

    private List<String> lines() {
        return kept.rows(1, 3).stream()
                .map(row -> row.number() + " " + row.outcome().word()
                        + (row.note().isEmpty() ? "" : " (" + row.note() + ")"))
                .toList();
    }

    private List<Object> codes() {
        return huts.records().stream().map(hut -> hut.get("hut_code")).sorted().toList();
    }

    @Test
    void rowsThatAreNotChosenAreSkippedWhateverIsWrongWithThem() {
        RunResult result = run(load().about("1,5-9", ""), WRITE);
        assertThat(codes()).containsExactly("H-1", "H-6");
        assertThat(lines())
                .containsExactly(
                        "1 inserted",
                        "2 skipped (not chosen)",
                        "3 skipped (not chosen)",
                        "4 skipped (not chosen)",
                        "5 skipped (filtered)",
                        "6 inserted");
        assertThat(result.balance().counts())
                .isEqualTo(Counts.reading(6, 4, 0, 0).plus(Counts.taken(2, 0, 0, 0, 0, 0)));
        assertThat(result.balance().tally().steps().getFirst().in())
                .as("what is not chosen comes to no step")
                .isEqualTo(3);
    }

    @Test
    void aFormulaChoosesByWhatTheSourceHolds() {
        run(load().about("", "code in ('H-2', 'H-3')"), WRITE);
        assertThat(lines())
                .containsExactly(
                        "1 skipped (not chosen)",
                        "2 inserted",
                        "3 rejected (value-malformed)",
                        "4 rejected (row-ragged)",
                        "5 skipped (not chosen)",
                        "6 skipped (not chosen)");
    }

    @Test
    void bothTogetherChooseWhatBothDo() {
        run(load().about("1-3", "name <> 'Larch'"), WRITE);
        assertThat(codes()).containsExactly("H-2");
    }

    @Test
    void whatIsNotChosenDoesNotCountAsGone() {
        String replace = """
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: huts.csv }
                write:
                  connection: register
                  records: hut
                  action: replace
                  key: [hut_code]
                  map: { hut_code: code, name: name }
                %s""";
        huts.add(new java.util.LinkedHashMap<>(java.util.Map.of("hut_code", "H-9", "name", "Nine")));
        run(load().of(replace).about("1", ""), WRITE);
        assertThat(codes()).containsExactly("H-1", "H-9");
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 5})
    void theFirstRowsAreWrittenThenTheOthers(long first) {
        RunResult result = run(load(), new RunPolicy(Purpose.WRITE, false, 2, 100_000, first));
        assertThat(result.state()).isEqualTo(RunState.HELD);
        assertThat(result.reasons()).extracting(Problem::code).containsExactly(ProblemCode.FIRST_ROWS_WRITTEN);
        assertThat(result.balance().counts().read()).isEqualTo(first);
        assertThat(result.balance().unreached()).isEqualTo(6 - first);
        assertThat(lines()).hasSize((int) first);

        result = run(load(), WRITE);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(codes()).containsExactly("H-1", "H-2", "H-6");
        assertThat(lines())
                .containsExactly(
                        "1 inserted",
                        "2 inserted",
                        "3 rejected (value-malformed)",
                        "4 rejected (row-ragged)",
                        "5 skipped (filtered)",
                        "6 inserted");
    }

    @Test
    void whereAllAreTheFirstTheRunFinishes() {
        assertThat(run(load(), new RunPolicy(Purpose.WRITE, false, 2, 100_000, 6))
                        .state())
                .isEqualTo(RunState.FINISHED);
    }

    @Test
    void anOrderIsNotCutByTheFirstRows() throws IOException {
        MemorySystem shop = new MemorySystem(Orders.ORDER, Orders.LINE);
        String csv = "no;hut;line;article\nO-1;Fern;1;Rope\nO-1;Fern;2;Lamp\nO-2;Oak;1;Bell\n";
        RunPolicy one = new RunPolicy(Purpose.WRITE, false, 100, 100_000, 1);
        RunResult result = new Orders(shop, kept, scratch).load(csv, "", one, new Quiet());
        assertThat(result.state()).isEqualTo(RunState.HELD);
        assertThat(shop.records("line")).hasSize(2);
        assertThat(shop.records("order")).hasSize(1);
    }
}
