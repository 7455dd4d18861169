package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceRow;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Rows that another thread reads are the same rows. */
@Timeout(60)
class ReadAheadTest {
    /** Gives rows up to a number, then ends as it was told. */
    private static final class Numbered implements RowFlow {
        private final int rows;
        private final @Nullable Throwable failure;
        private final AtomicInteger read = new AtomicInteger();
        private final CountDownLatch closed = new CountDownLatch(1);

        Numbered(int rows, @Nullable Throwable failure) {
            this.rows = rows;
            this.failure = failure;
        }

        @Override
        public @Nullable FlowRow next() {
            if (read.get() == rows) {
                switch (failure) {
                    case RuntimeException e -> throw e;
                    case Error e -> throw e;
                    case null, default -> {
                        return null;
                    }
                }
            }
            int number = read.incrementAndGet();
            SourceRow row = new SourceRow(number, Origin.line("huts.csv", number + 1), new Object[] {"H-" + number});
            return FlowRow.of(row, new Object[1]);
        }

        @Override
        public long read() {
            return read.get();
        }

        @Override
        public void close() {
            closed.countDown();
        }
    }

    private static List<Long> numbers(ReadAhead flow, List<Long> into) {
        for (FlowRow row = flow.next(); row != null; row = flow.next()) {
            into.add(row.source().number());
            assertThat(flow.read()).isEqualTo(into.size());
        }
        return into;
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 999, 1_000, 1_001, 12_345})
    void allRowsComeInTheirOrder(int rows) {
        Numbered source = new Numbered(rows, null);
        try (ReadAhead flow = new ReadAhead(source)) {
            List<Long> numbers = numbers(flow, new ArrayList<>());
            assertThat(numbers).hasSize(rows).isSorted().doesNotHaveDuplicates();
            assertThat(flow.next()).as("the end stays the end").isNull();
        }
        assertThat(source.closed.getCount()).isZero();
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1_000, 2_500})
    void whatEndsTheReadingComesBehindTheRows(int rows) {
        List<Long> numbers = new ArrayList<>();
        try (ReadAhead flow = new ReadAhead(new Numbered(rows, new IllegalStateException("torn")))) {
            assertThatThrownBy(() -> numbers(flow, numbers))
                    .isInstanceOf(IllegalStateException.class)
                    .hasMessage("torn");
            assertThat(flow.read()).isEqualTo(rows);
        }
        assertThat(numbers).hasSize(rows);
    }

    @Test
    void anErrorIsNotSwallowed() {
        try (ReadAhead flow = new ReadAhead(new Numbered(3, new StackOverflowError("deep")))) {
            assertThatThrownBy(() -> numbers(flow, new ArrayList<>())).isInstanceOf(StackOverflowError.class);
        }
    }

    @Test
    void ofLargeRowsOnlyAFewAreHeld() {
        Object[] cells = {"x".repeat(1_000_000)};
        AtomicInteger read = new AtomicInteger();
        RowFlow source = new RowFlow() {
            @Override
            public FlowRow next() {
                return FlowRow.of(new SourceRow(read.incrementAndGet(), Origin.NOWHERE, cells), new Object[1]);
            }

            @Override
            public long read() {
                return read.get();
            }

            @Override
            public void close() {
                // rows in memory need no closing
            }
        };
        try (ReadAhead flow = new ReadAhead(source)) {
            for (int i = 0; i < 100; i++) {
                flow.next();
            }
        }
        assertThat(read.get() - 100)
                .as("rows of a million characters that were read ahead")
                .isLessThanOrEqualTo(7);
    }

    @Test
    void whoClosesItEarlyEndsTheReading() {
        Numbered source = new Numbered(Integer.MAX_VALUE, null);
        try (ReadAhead flow = new ReadAhead(source)) {
            assertThat(flow.next().source().number()).isEqualTo(1);
        }
        assertThat(source.closed.getCount()).isZero();
        assertThat(source.read.get()).as("a few blocks ahead, no more").isLessThanOrEqualTo(7_000);
    }
}
