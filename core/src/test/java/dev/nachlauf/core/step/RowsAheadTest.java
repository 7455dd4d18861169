package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceRow;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class RowsAheadTest {
    private final AtomicBoolean closed = new AtomicBoolean();
    private final AtomicLong given = new AtomicLong();

    /** So many rows; what comes behind them is a failure where it is negative. */
    private RowFlow rows(long count) {
        return new RowFlow() {
            @Override
            public @Nullable FlowRow next() {
                long number = given.incrementAndGet();
                if (number > Math.abs(count)) {
                    if (count < 0) {
                        throw new IllegalStateException("row " + number + " can't be read");
                    }
                    return null;
                }
                return FlowRow.of(
                        new SourceRow(number, Origin.line("huts.csv", number + 1), new Object[0]), new Object[0]);
            }

            @Override
            public long read() {
                return Math.min(given.get(), Math.abs(count));
            }

            @Override
            public void close() {
                closed.set(true);
            }
        };
    }

    @Test
    void allRowsComeInTheirOrderAndAreCounted() {
        try (RowsAhead ahead = new RowsAhead(rows(10_000))) {
            for (long number = 1; number <= 10_000; number++) {
                assertThat(ahead.next().position()).isEqualTo(number);
            }
            assertThat(ahead.next()).isNull();
            assertThat(ahead.next()).isNull();
            assertThat(ahead.read()).isEqualTo(10_000);
        }
        assertThat(closed).isTrue();
    }

    @Test
    void aFlowWithoutRowsEndsAtOnce() {
        try (RowsAhead ahead = new RowsAhead(rows(0))) {
            assertThat(ahead.next()).isNull();
            assertThat(ahead.read()).isZero();
        }
    }

    @Test
    void aFailureComesBehindTheRowsBeforeIt() {
        try (RowsAhead ahead = new RowsAhead(rows(-700))) {
            for (long number = 1; number <= 700; number++) {
                assertThat(ahead.next().position()).isEqualTo(number);
            }
            assertThatThrownBy(ahead::next).hasMessage("row 701 can't be read");
            assertThat(ahead.read()).isEqualTo(700);
        }
    }

    /** Whoever takes nothing any more holds nobody up, and no more than some portions were read. */
    @Test
    void whatIsClosedEarlyReadsNoFurther() {
        RowsAhead ahead = new RowsAhead(rows(1_000_000));
        assertThat(ahead.next().position()).isEqualTo(1);
        ahead.close();
        assertThat(closed).isTrue();
        assertThat(given.get()).isLessThan(3_000);
    }
}
