package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.run.PendingBatches;
import dev.nachlauf.core.run.RunBalance;
import dev.nachlauf.core.run.RunObserver.Point;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Every way in which a run can fail, at every point of a batch's life: what is told is what is there. */
@Order(1) // waits longest
class FailedRunTest {
    private static final int ORDERS = 40;

    @TempDir
    Path scratch;

    static Stream<Arguments> failures() {
        List<Arguments> failures = new ArrayList<>();
        for (Point point : List.of(Point.BEFORE_LEDGER, Point.BETWEEN_LEDGER_AND_COMMIT, Point.AFTER_COMMIT)) {
            for (ProblemCode code : ProblemCode.values()) {
                if (!code.isWarning()) {
                    failures.add(Arguments.of(point, new CannotGoOn(Problem.of(code, "So it is.", ""))));
                }
            }
            failures.add(Arguments.of(point, new IllegalStateException("a defect")));
        }
        return failures.stream();
    }

    private static String csv() {
        StringBuilder csv = new StringBuilder("no;hut;line;article\n");
        for (int n = 1; n <= ORDERS; n++) {
            csv.append("O-")
                    .append(n)
                    .append(";H-1;1;")
                    .append(n % 5 == 0 ? "rope" : "flour")
                    .append('\n');
            csv.append("O-").append(n).append(";H-1;2;gas\n");
        }
        return csv.toString();
    }

    @ParameterizedTest
    @MethodSource("failures")
    void tellsWhatIsThere(Point point, RuntimeException failure) throws IOException {
        MemorySystem memory = new MemorySystem(Orders.ORDER, Orders.LINE);
        memory.refuse(values -> "rope".equals(values.get("article"))
                ? Optional.of(Problem.of(ProblemCode.CHECK_FAILED, "No rope.", ""))
                : Optional.empty());
        Kept kept = new Kept();
        Path folder = Files.createTempDirectory(scratch, "run");
        Throwable met = catchThrowable(() -> new Orders(memory, kept, folder).load(csv(), "", 10, new Quiet() {
            @Override
            public void reached(Point here, int batch) {
                if (here == point && batch == 3) {
                    throw failure;
                }
            }
        }));
        assertThat(met).isSameAs(failure);
        boolean settled = new PendingBatches(connection -> memory, kept)
                .settle(new LedgerWrites(
                        List.of(
                                new LedgerWrites.Write(
                                        "order",
                                        "register",
                                        "order",
                                        List.of("order_no"),
                                        List.of("order_no", "hut"),
                                        true),
                                new LedgerWrites.Write(
                                        "line",
                                        "register",
                                        "line",
                                        List.of("order_id", "line_no"),
                                        List.of("order_id", "line_no", "article"),
                                        false)),
                        Grouping.TOGETHER));
        assertThat(settled).isTrue();
        assertThat(kept.chunks()).allMatch(head -> head.state() == Chunk.State.DONE);
        Balance balance = RunBalance.of(2L * ORDERS, kept.chunks(), false);
        assertThat(balance.gap()).isEmpty();
        assertThat(balance.unknown()).isZero();
        assertThat(balance.unreached()).isPositive();
        assertThat(balance.tally().writes().get(0).inserted())
                .isEqualTo(memory.records("order").size());
        assertThat(balance.tally().writes().get(1).inserted())
                .isEqualTo(memory.records("line").size());
        long rejected = balance.counts().allRejected() + balance.tally().elsewhere();
        assertThat(kept.rejects).hasSize((int) rejected);
        boolean written = point == Point.AFTER_COMMIT;
        assertThat(balance.unreached()).isEqualTo(2L * ORDERS - (written ? 40 : 30));
    }
}
