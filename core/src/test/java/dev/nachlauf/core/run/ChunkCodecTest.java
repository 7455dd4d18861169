package dev.nachlauf.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.Test;

class ChunkCodecTest {
    @Test
    void givesBackTheLinesOfTheLedger() {
        BitSet changed = new BitSet();
        changed.set(1);
        LedgerRow updated = new LedgerRow(
                4,
                4,
                4,
                0,
                "huts.csv",
                5,
                Outcome.UPDATED,
                true,
                "",
                List.of("H-001"),
                17L,
                changed,
                new Object[] {null, 8L},
                new Object[] {null, 12L});
        LedgerRow skipped = new LedgerRow(
                5,
                9,
                8,
                1,
                "huts.csv",
                6,
                Outcome.SKIPPED,
                false,
                "filtered",
                null,
                null,
                new BitSet(),
                new Object[0],
                new Object[0]);
        List<LedgerRow> back = ChunkCodec.rows(ChunkCodec.pack(List.of(updated, skipped), 1, 2), 1, 2);
        assertThat(back.get(0)).usingRecursiveComparison().isEqualTo(updated);
        assertThat(back.get(1).note()).isEqualTo("filtered");
        assertThat(back.get(1).key()).isNull();
        assertThat(back.get(1).outcome()).isEqualTo(Outcome.SKIPPED);
        assertThat(back.get(1).position()).isEqualTo(9);
        assertThat(back.get(1).group()).isEqualTo(8);
    }

    @Test
    void givesBackRejectsWithAllTheirProblems() {
        Reject reject = new Reject(
                3,
                7,
                12,
                new Origin("huts.xlsx", "North", 4, ""),
                "H-003",
                Arrays.asList("h-003", null, "many"),
                List.of(
                        Problem.inField(ProblemCode.VALUE_MALFORMED, "beds", "many", "'many' is not an integer.", "")
                                .withCell("huts.xlsx, North!C4"),
                        Problem.of(ProblemCode.RULE_FAILED, "A rule.", "The rule is: …")));
        assertThat(ChunkCodec.rejects(ChunkCodec.packRejects(List.of(reject)))).containsExactly(reject);
    }
}
