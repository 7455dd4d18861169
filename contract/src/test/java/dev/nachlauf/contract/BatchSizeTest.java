package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Where batches are cut is nobody's business: the same rows end in the same records with the same outcomes. */
class BatchSizeTest {
    private static final List<String> STEPS = List.of(
            "",
            "- where: coalesce(article, '') <> 'salt'",
            "- rule: line < 5",
            "- duplicates: [no, line]\n  keep: first",
            "- duplicates: [no, line]\n  keep: last\n- where: line > 1",
            "- set: { article: upper(article), line: 10 / (line - 1) }");

    @TempDir
    Path scratch;

    @Test
    void doesNotChangeWhatBecomesOfOrdersAndTheirLines() throws IOException {
        long records = 0;
        long rejects = 0;
        for (long seed = 1; seed <= 80; seed++) {
            Random random = new Random(seed);
            String csv = orders(random);
            String steps = STEPS.get(random.nextInt(STEPS.size()));
            boolean alone = seed % 2 == 0;
            String whole = new Load(alone).outcome(csv, steps, 1_000, "seed " + seed);
            for (int batchRows : List.of(1, 2, 5)) {
                assertThat(new Load(alone)
                                .outcome(csv, steps, batchRows, "seed " + seed + " in batches of " + batchRows))
                        .as("seed " + seed + " in batches of " + batchRows)
                        .isEqualTo(whole);
            }
            records += whole.lines().filter(line -> line.startsWith("line")).count();
            rejects += whole.lines().filter(line -> line.startsWith("reject")).count();
        }
        assertThat(records).as("the cases are worth it").isGreaterThan(200);
        assertThat(rejects).as("the cases are worth it").isGreaterThan(200);
    }

    @Test
    void mayChangeWhileARunIsInterrupted() throws IOException {
        int interrupted = 0;
        for (long seed = 1; seed <= 80; seed++) {
            Random random = new Random(seed);
            String csv = orders(random);
            String steps = STEPS.get(random.nextInt(STEPS.size()));
            boolean alone = seed % 2 == 0;
            String whole = new Load(alone).outcome(csv, steps, 1_000, "seed " + seed);
            Load load = new Load(alone);
            for (int attempt = 0; attempt < 4; attempt++) {
                int dies = random.nextInt(4);
                interrupted += load.dies(csv, steps, 1 + random.nextInt(4), dies) ? 1 : 0;
            }
            String name = "seed " + seed + " with changing batches";
            assertThat(load.outcome(csv, steps, 3, name)).as(name).isEqualTo(whole);
        }
        assertThat(interrupted).as("the cases are worth it").isGreaterThan(60);
    }

    private static String orders(Random random) {
        StringBuilder csv = new StringBuilder("no;hut;line;article\n");
        for (int i = random.nextInt(25); i >= 0; i--) {
            csv.append(one(random, "O-1", "O-2", "O-3", "O-4", "O-5", "O-6", ""))
                    .append(';')
                    .append(one(random, "H-1", "H-2"))
                    .append(';')
                    .append(one(random, "1", "2", "3", "4", "5", "6", "7", "8", "9", random.nextBoolean() ? "x" : "10"))
                    .append(';')
                    .append(one(random, "flour", "gas", "wood", "lamp", "salt", random.nextBoolean() ? "rope" : "oil"))
                    .append('\n');
        }
        return csv.toString();
    }

    private static String one(Random random, String... of) {
        return of[random.nextInt(of.length)];
    }

    /** One run, in one attempt or several. */
    private final class Load {
        private final MemorySystem memory = new MemorySystem(Orders.ORDER, Orders.LINE);
        private final Kept kept = new Kept();
        private final boolean linesAlone;
        private final Path folder;

        Load(boolean linesAlone) throws IOException {
            this.linesAlone = linesAlone;
            folder = Files.createTempDirectory(scratch, "run");
            memory.refuse(values -> "rope".equalsIgnoreCase(String.valueOf(values.get("article")))
                    ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No rope.", ""))
                    : Optional.empty());
        }

        private Orders orders() {
            Orders orders = new Orders(memory, kept, folder);
            return linesAlone ? orders.linesAlone() : orders;
        }

        /** An attempt that dies before it writes a batch; false where it came to its end before. */
        boolean dies(String csv, String steps, int batchRows, int where) throws IOException {
            try {
                orders().load(csv, steps, batchRows, new Quiet() {
                    @Override
                    public void reached(Point point, int batch) {
                        if (point == Point.BEFORE_LEDGER && batch == where) {
                            throw new CannotGoOn(Problem.of(ProblemCode.UNREACHABLE, "Died.", ""));
                        }
                    }
                });
                return false;
            } catch (CannotGoOn e) {
                return true;
            }
        }

        /** What the target holds and what was rejected. Ids are given in the order of writing, so they are left out. */
        String outcome(String csv, String steps, int batchRows, String name) throws IOException {
            RunResult result = orders().load(csv, steps, batchRows);
            assertThat(result.state()).as(name + result.reasons()).isEqualTo(RunState.FINISHED);
            assertThat(result.balance().gap()).as(name).isEmpty();
            Map<Object, Object> orders = new HashMap<>();
            memory.recordsById("order").forEach((id, order) -> orders.put(id, order.get("order_no")));
            List<String> lines = new ArrayList<>();
            TreeSet<String> all = new TreeSet<>();
            memory.records("order")
                    .forEach(order -> all.add("order " + order.get("order_no") + " " + order.get("hut")));
            for (Map<String, Object> line : memory.records("line")) {
                assertThat(orders).as(name).containsKey(line.get("order_id"));
                lines.add("line " + orders.get(line.get("order_id")) + " " + line.get("line_no") + " "
                        + line.get("article"));
            }
            assertThat(lines).as(name).doesNotHaveDuplicates();
            all.addAll(lines);
            kept.rejects.forEach(reject -> all.add("reject " + reject.number() + " "
                    + reject.problems().stream()
                            .map(problem -> problem.code().id())
                            .toList()));
            all.add("counts " + result.balance().counts() + result.balance().tally());
            return String.join("\n", all);
        }
    }
}
