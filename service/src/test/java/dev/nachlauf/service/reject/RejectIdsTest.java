package dev.nachlauf.service.reject;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.run.Reject;
import dev.nachlauf.service.ServiceUnderTest;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * A crash of the database takes back what no transaction had made last, numbers of sequences too, while the service goes
 * on: then no reject may hide, and none may stand in another one's place.
 */
class RejectIdsTest {
    @Test
    void numbersThatACrashTookBackAreNoTrap() {
        try (ServiceUnderTest service = new ServiceUnderTest()) {
            service.keepRun(1, "finished");
            Rejects rejects = service.bean(Rejects.class);
            TransactionTemplate transactions = service.bean(TransactionTemplate.class);
            transactions.executeWithoutResult(status -> {
                rejects.add(1, rejects(1, 3));
                status.setRollbackOnly();
            });
            service.execute("ALTER SEQUENCE reject_seq RESTART");
            for (long first = 1; first <= 200; first += 20) {
                long from = first;
                transactions.executeWithoutResult(status -> rejects.add(1, rejects(from, from + 19)));
            }
            assertThat(rejects.list(1L, null, false, null, 1_000).items())
                    .extracting(reject -> reject.row())
                    .containsExactlyElementsOf(
                            LongStream.rangeClosed(1, 200).boxed().toList());
        }
    }

    private static List<Reject> rejects(long first, long last) {
        return LongStream.rangeClosed(first, last)
                .mapToObj(row -> new Reject(
                        row,
                        row,
                        1,
                        Origin.line("huts.csv", row + 1),
                        "H-" + row,
                        List.of("H-" + row),
                        List.of(Problem.of(ProblemCode.RULE_FAILED, "A rule.", "")),
                        false))
                .toList();
    }
}
