package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.service.run.Pace.Mark;
import java.time.Duration;
import org.junit.jupiter.api.Test;

class PaceTest {
    private static Mark mark(double seconds, long rows) {
        return new Mark(Duration.ofMillis(Math.round(seconds * 1000)).toNanos(), rows);
    }

    @Test
    void nobodyCanTellAtTheBeginning() {
        Pace pace = Pace.from(mark(10, 0));
        assertThat(pace.rate()).isEmpty();
        assertThat(pace.at(mark(10.9, 500)).rate()).isEmpty();
        assertThat(pace.at(mark(12, 0)).rate()).as("nothing moves").isEmpty();
    }

    @Test
    void theRateIsThatOfTheLastSeconds() {
        Pace pace = Pace.from(mark(10, 0)).at(mark(12, 2_000));
        assertThat(pace.rate()).hasValue(1_000);
        assertThat(pace.secondsTo(10_500)).hasValue(9);
        // it goes ten times as fast from here on
        pace = pace.at(mark(16, 6_000)).at(mark(22, 66_000)).at(mark(24, 86_000));
        assertThat(pace.rate()).hasValue(10_000);
        assertThat(pace.secondsTo(86_000)).as("all is done").isEmpty();
    }

    @Test
    void whatWasDoneBeforeACrashSoonCountsForNothing() {
        Pace pace = Pace.from(mark(0, 0))
                .at(mark(1, 500_000))
                .at(mark(6, 505_000))
                .at(mark(12, 511_000))
                .at(mark(14, 513_000));
        assertThat(pace.rate()).hasValue(1_000);
    }
}
