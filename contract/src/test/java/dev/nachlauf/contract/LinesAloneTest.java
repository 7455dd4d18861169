package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Header and lines, of which a line that is rejected leaves the others alone. */
class LinesAloneTest {
    private static final RunPolicy FIRST = new RunPolicy(Purpose.PLAN_FIRST, false, 100, 100_000);
    private static final RunPolicy REVIEW = new RunPolicy(Purpose.REVIEW, false, 100, 100_000);
    private static final RunPolicy WRITE = new RunPolicy(false, 100, 100_000);

    @TempDir
    Path scratch;

    private final MemorySystem memory = new MemorySystem(Orders.ORDER, Orders.LINE);
    private final Kept kept = new Kept();

    @BeforeEach
    void refuse() {
        refuseIn(memory);
    }

    private static void refuseIn(MemorySystem system) {
        system.refuse(values -> "rope".equals(values.get("article")) || "closed".equals(values.get("hut"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "Not this one.", ""))
                : Optional.empty());
    }

    private RunResult run(String lines, int batchRows) throws IOException {
        RunResult result =
                new Orders(memory, kept, scratch).linesAlone().load("no;hut;line;article\n" + lines, "", batchRows);
        assertThat(result.state()).as(result.reasons().toString()).isEqualTo(RunState.FINISHED);
        assertThat(result.balance().gap()).isEmpty();
        return result;
    }

    private TreeSet<String> stored(MemorySystem system) {
        TreeSet<String> all = new TreeSet<>();
        Map<Long, Map<String, Object>> orders = system.recordsById("order");
        orders.values().forEach(order -> all.add(order.get("order_no") + " of " + order.get("hut")));
        system.records("line")
                .forEach(line -> all.add(orders.get(line.get("order_id")).get("order_no") + "/" + line.get("line_no")
                        + " " + line.get("article")));
        return all;
    }

    private List<String> rejects() {
        return kept.rejects.stream()
                .map(reject -> reject.number() + " "
                        + reject.problems().getFirst().code().id())
                .toList();
    }

    @Test
    void aLineThatFailsLeavesItsOrderAlone() throws IOException {
        RunResult result = run("O-1;H-1;1;flour\nO-1;H-1;x;gas\nO-2;H-2;1;wood\nO-1;H-1;3;rope\nO-1;H-1;4;salt\n", 2);
        assertThat(stored(memory))
                .containsExactly("O-1 of H-1", "O-1/1 flour", "O-1/4 salt", "O-2 of H-2", "O-2/1 wood");
        assertThat(rejects()).containsExactlyInAnyOrder("2 value-malformed", "4 check-failed");
        assertThat(result.balance().counts().refused()
                        + result.balance().counts().rejected()
                        + result.balance().tally().elsewhere())
                .as("rows with rejects")
                .isEqualTo(2);
    }

    @Test
    void theHeaderIsWrittenFromTheFirstLineThatGoesOn() throws IOException {
        run("O-1;H-1;x;flour\nO-1;H-2;2;rope\nO-1;H-3;3;salt\nO-1;H-4;4;wood\n", 100);
        assertThat(stored(memory)).containsExactly("O-1 of H-3", "O-1/3 salt", "O-1/4 wood");
        assertThat(rejects()).containsExactlyInAnyOrder("1 value-malformed", "2 check-failed");
        assertThat(kept.rows(2, 3))
                .filteredOn(row -> row.write() == 0 && row.wrote())
                .extracting(LedgerRow::number)
                .containsExactly(3L);
    }

    @Test
    void withoutItsHeaderNoLineIsWritten() throws IOException {
        run("O-1;closed;1;flour\nO-1;H-1;2;gas\nO-2;H-2;1;wood\n;H-2;1;wood\n;H-2;2;salt\n", 100);
        assertThat(stored(memory)).containsExactly("O-2 of H-2", "O-2/1 wood");
        assertThat(rejects()).containsExactly("1 check-failed", "2 group-rejected", "4 key-empty", "5 group-rejected");
    }

    @Test
    void anOrderWhoseLinesAllFailIsNotWritten() throws IOException {
        run("O-1;H-1;1;rope\nO-1;H-1;x;gas\nO-1;H-1;3;rope\n", 100);
        assertThat(stored(memory)).isEmpty();
        assertThat(rejects()).hasSize(3);
    }

    @Test
    void theRecordOfALineThatIsRejectedStays() throws IOException {
        run("O-1;H-1;1;flour\nO-1;H-1;2;gas\nO-1;H-1;3;salt\n", 100);
        Kept planned = new Kept();
        Kept written = new Kept();
        String csv = "no;hut;line;article\nO-1;H-1;2;oil\nO-1;H-1;1;rope\n";
        new Orders(memory, planned, scratch).replacingLines().linesAlone().load(csv, "", FIRST, new Quiet());
        RunResult result = new Orders(memory, written, scratch)
                .replacingLines()
                .linesAlone()
                .release(planned, row -> false, WRITE, new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        assertThat(stored(memory))
                .as("3 is gone, 2 was changed; what was said of 1 is refused, so it is as it was")
                .containsExactly("O-1 of H-1", "O-1/1 flour", "O-1/2 oil");
    }

    @Test
    void aLineThatCantBeReleasedLeavesTheOthersAlone() throws IOException {
        run("O-1;H-1;1;flour\nO-1;H-1;2;gas\nO-1;H-1;3;salt\nO-2;H-1;1;wood\n", 100);
        Kept planned = new Kept();
        Kept written = new Kept();
        String csv = "no;hut;line;article\nO-1;H-1;1;oil\nO-1;H-1;2;oil\nO-1;H-1;3;oil\nO-2;H-9;1;oil\nO-2;H-9;2;oil\n";
        new Orders(memory, planned, scratch).linesAlone().load(csv, "", REVIEW, new Quiet());
        memory.records("line").stream()
                .filter(line -> "gas".equals(line.get("article")))
                .forEach(line -> line.put("article", "gas for the lamp"));
        memory.records("order").stream()
                .filter(order -> "O-2".equals(order.get("order_no")))
                .forEach(order -> order.put("hut", "H-2"));
        RunResult result =
                new Orders(memory, written, scratch).linesAlone().release(planned, row -> false, WRITE, new Quiet());
        assertThat(result.balance().gap()).isEmpty();
        assertThat(stored(memory))
                .as("the second line of O-1 was changed since, and so was the header of O-2")
                .containsExactly(
                        "O-1 of H-1", "O-1/1 oil", "O-1/2 gas for the lamp", "O-1/3 oil", "O-2 of H-2", "O-2/1 wood");
        assertThat(written.rejects)
                .extracting(reject -> reject.number() + " "
                        + reject.problems().getFirst().code().id())
                .containsExactly("2 changed-since-review", "4 changed-since-review", "5 group-rejected");
    }

    /** The same by plain lists: who fails, who leads, what is written. */
    private static TreeSet<String> expected(List<String[]> rows) {
        TreeSet<String> all = new TreeSet<>();
        for (String no : List.of("O-1", "O-2", "O-3", "O-4")) {
            List<String[]> sent = rows.stream()
                    .filter(row -> row[0].equals(no) && !row[2].equals("x"))
                    .toList();
            Optional<String[]> leader = sent.stream()
                    .filter(row -> row[1].equals("closed") || !row[3].equals("rope"))
                    .findFirst();
            if (leader.isPresent() && !leader.get()[1].equals("closed")) {
                all.add(no + " of " + leader.get()[1]);
                sent.stream()
                        .filter(row -> !row[3].equals("rope"))
                        .forEach(row -> all.add(no + "/" + row[2] + " " + row[3]));
            }
        }
        return all;
    }

    @Test
    void randomOrdersAreWrittenAsPlainListsSay() throws IOException {
        int rejected = 0;
        for (long seed = 1; seed <= 150; seed++) {
            Random random = new Random(seed);
            List<String[]> rows = new ArrayList<>();
            for (String no : List.of("O-1", "O-2", "O-3", "O-4")) {
                for (int line = random.nextInt(6); line > 0; line--) {
                    rows.add(new String[] {
                        no,
                        random.nextInt(8) == 0 ? "closed" : "H-" + random.nextInt(3),
                        random.nextInt(4) == 0 ? "x" : String.valueOf(line),
                        random.nextInt(4) == 0 ? "rope" : "salt"
                    });
                }
            }
            Collections.shuffle(rows, random);
            MemorySystem system = new MemorySystem(Orders.ORDER, Orders.LINE);
            refuseIn(system);
            Kept records = new Kept();
            StringBuilder csv = new StringBuilder("no;hut;line;article\n");
            rows.forEach(row -> csv.append(String.join(";", row)).append('\n'));
            RunResult result = new Orders(system, records, Files.createTempDirectory(scratch, "run"))
                    .linesAlone()
                    .load(csv.toString(), "", 1 + random.nextInt(8));
            assertThat(result.balance().gap()).as("seed " + seed).isEmpty();
            assertThat(stored(system)).as("seed " + seed).isEqualTo(expected(rows));
            assertThat(records.rejects.size() + system.records("line").size())
                    .as("each row is written or rejected; seed " + seed)
                    .isEqualTo(rows.size());
            rejected += records.rejects.size();
        }
        assertThat(rejected).as("the cases are worth it").isGreaterThan(500);
    }
}
