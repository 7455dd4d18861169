package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.run.Chunk;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** Sums that are kept batch by batch are those of the whole ledger, whatever was in doubt on the way. */
class RunSumsTest {
    private static Chunk.Head chunk(int batch, Chunk.State state) {
        Counts counts = new Counts(100, 2, 3, 40, 30, 20, 0, 0, 5, 1);
        Tally tally = new Tally(List.of(StepCount.NONE), List.of(counts, Counts.NONE), List.of(), batch, 0, 0);
        return new Chunk.Head(
                batch,
                new Chunk.Range(batch * 100L, batch * 100L + 99, batch * 100L, 100),
                counts,
                tally,
                Map.of("beds", 30L),
                new TreeMap<>(),
                state);
    }

    @Test
    void batchesInDoubtAreInNoOtherSumUntilTheyAreSettled() {
        RunSums doubtful = RunSums.NONE.plus(chunk(0, Chunk.State.DONE)).plus(chunk(1, Chunk.State.PENDING));
        assertThat(doubtful.totals().inDoubt()).isEqualTo(100);
        assertThat(doubtful.totals().counts().inserted()).isEqualTo(40);
        assertThat(doubtful.changedFields()).containsExactly(Map.entry("beds", 30L));

        RunSums settled = doubtful.settled(chunk(1, Chunk.State.PENDING));
        assertThat(settled.totals().inDoubt()).isZero();
        assertThat(settled.totals().counts().inserted()).isEqualTo(80);
        assertThat(settled.totals().counts().warned()).isEqualTo(2);
        assertThat(settled.totals().elsewhere()).isEqualTo(1);
        assertThat(settled.tally().writes()).hasSize(2);
        assertThat(settled.changedFields()).containsExactly(Map.entry("beds", 60L));
    }

    @Test
    void theyAreTheSumsOfTheWholeLedger() {
        RunSums stepwise = RunSums.NONE
                .plus(chunk(0, Chunk.State.PENDING))
                .plus(chunk(1, Chunk.State.DONE))
                .settled(chunk(0, Chunk.State.PENDING))
                .plus(chunk(2, Chunk.State.PENDING));
        List<Chunk.Head> ledger =
                List.of(chunk(0, Chunk.State.DONE), chunk(1, Chunk.State.DONE), chunk(2, Chunk.State.PENDING));
        assertThat(stepwise).isEqualTo(RunSums.of(ledger));
        assertThat(stepwise.totals().counts().read() + stepwise.totals().inDoubt())
                .isEqualTo(300);
    }

    @Test
    void aBatchThatIsToldOtherwiseCountsOnce() {
        RunSums doubtful = RunSums.NONE.plus(chunk(0, Chunk.State.DONE)).plus(chunk(1, Chunk.State.PENDING));
        RunSums meantOtherwise = doubtful.replaced(chunk(1, Chunk.State.PENDING), chunk(1, Chunk.State.PENDING));
        assertThat(meantOtherwise).isEqualTo(doubtful);
        RunSums done = doubtful.replaced(chunk(1, Chunk.State.PENDING), chunk(1, Chunk.State.DONE));
        assertThat(done).isEqualTo(RunSums.of(List.of(chunk(0, Chunk.State.DONE), chunk(1, Chunk.State.DONE))));
        assertThat(done.totals().inDoubt()).isZero();
    }
}
