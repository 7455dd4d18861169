package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Header and lines: two writes of a batch in one unit, over the systems in memory. */
class WritesTogetherTest {
    @TempDir
    Path scratch;

    private final MemorySystem memory = new MemorySystem(Orders.ORDER, Orders.LINE);
    private final Kept kept = new Kept();

    private RunResult run(String csv, int batchRows) throws IOException {
        return new Orders(memory, kept, scratch).load(csv, "", batchRows);
    }

    private static final String ORDERS = "no;hut;line;article\n"
            + "O-1;H-1;1;flour\nO-2;H-2;1;rope\nO-1;H-1;2;gas\nO-3;H-3;1;wood\nO-2;H-2;2;lamp\nO-1;H-1;3;salt\n";

    @Test
    void linesCarryTheIdOfTheirHeader() throws IOException {
        RunResult result = run(ORDERS, 2);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(memory.records("order"))
                .extracting(order -> order.get("order_no"))
                .containsExactly("O-1", "O-2", "O-3");
        assertThat(memory.records("line")).hasSize(6);
        Map<Object, Long> linesByOrder = new java.util.HashMap<>();
        memory.records("line").forEach(line -> linesByOrder.merge(line.get("order_id"), 1L, Long::sum));
        assertThat(linesByOrder.values()).containsExactlyInAnyOrder(3L, 2L, 1L);
        List<LedgerRow> rows = kept.rows(2, 3);
        assertThat(rows).filteredOn(row -> row.write() == 0).hasSize(3);
        assertThat(rows).filteredOn(row -> row.write() == 1).hasSize(6);
        assertThat(rows).extracting(LedgerRow::outcome).containsOnly(Outcome.INSERTED);
    }

    @Test
    void writesThatUseNothingOfEachOtherGoTogetherToo() throws IOException {
        String lines = "no;hut;line;article\nO-1;H-1;1;flour\nO-2;H-2;2;rope\nO-1;H-1;3;gas\nO-3;H-3;4;wood\n";
        RunResult result = new Orders(memory, kept, scratch).apart().load(lines, "", 2);
        assertThat(result.state()).as(result.toString()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(memory.records("order")).hasSize(3);
        assertThat(memory.records("line"))
                .extracting(line -> line.get("order_id"))
                .contains(1L, 2L, 3L);
    }

    @Test
    void whatIsLoadedTwiceIsUnchangedInEveryWrite() throws IOException {
        run(ORDERS, 100);
        kept.chunks.clear();
        kept.shaped = null;
        RunResult again = run(ORDERS.replace("rope", "string"), 100);
        assertThat(again.balance().tally().writes().get(0).unchanged()).isEqualTo(3);
        assertThat(again.balance().tally().writes().get(1).unchanged()).isEqualTo(5);
        assertThat(again.balance().tally().writes().get(1).updated()).isEqualTo(1);
    }

    @Test
    void aRefusedLineTakesItsHeaderAndTheOtherLinesWithIt() throws IOException {
        memory.refuse(values -> "rope".equals(values.get("article"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No rope.", ""))
                : Optional.empty());
        RunResult result = run(ORDERS, 100);
        assertThat(result.balance().gap()).isEmpty();
        assertThat(memory.records("order"))
                .extracting(order -> order.get("order_no"))
                .containsExactly("O-1", "O-3");
        assertThat(memory.records("line")).hasSize(4);
        assertThat(kept.rejects)
                .extracting(reject -> reject.number() + " "
                        + reject.problems().getFirst().code().id())
                .containsExactly("2 check-failed", "5 group-rejected");
        assertThat(result.balance().tally().writes().get(0).refused()).isEqualTo(1);
        assertThat(result.balance().tally().writes().get(1).refused()).isEqualTo(2);
        assertThat(result.balance().counts().refused()
                        + result.balance().tally().elsewhere())
                .as("distinct rows with rejects")
                .isEqualTo(2);
    }

    @Test
    void groupsAreNeverCutAndALostCommitIsSettledForAllWrites() throws IOException {
        memory.loseAnswersOfCommits(true);
        assertThatThrownBy(() -> run(ORDERS, 1)).isInstanceOf(CannotGoOn.class);
        memory.loseAnswersOfCommits(false);
        int before = memory.records("line").size();
        assertThat(before).as("all lines of the first order").isEqualTo(3);
        RunResult result = run(ORDERS, 1);
        assertThat(result.state()).isEqualTo(RunState.FINISHED);
        assertThat(memory.records("order")).hasSize(3);
        assertThat(memory.records("line")).hasSize(6);
        assertThat(result.balance().tally().writes().get(1).inserted()).isEqualTo(6);
    }
}
