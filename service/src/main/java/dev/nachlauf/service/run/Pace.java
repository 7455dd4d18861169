package dev.nachlauf.service.run;

import java.time.Duration;
import java.util.OptionalLong;

/**
 * How fast rows go through one phase of a run, by what was done in the last seconds: a run that goes on after a crash has
 * done much at once, and a target slows down and recovers.
 *
 * @param older where the rate is counted from
 * @param newer where it will be counted from next
 * @param now what is done now
 */
record Pace(Mark older, Mark newer, Mark now) {
    /** So long a mark is counted from. */
    private static final Duration WINDOW = Duration.ofSeconds(5);
    /** Before that nobody can tell. */
    private static final Duration SOON = Duration.ofSeconds(1);

    /**
     * So many rows were done at a moment.
     *
     * @param at nanoseconds of a clock that has no beginning
     */
    record Mark(long at, long rows) {}

    /** A phase begins. */
    static Pace from(Mark mark) {
        return new Pace(mark, mark, mark);
    }

    /** More is done. */
    Pace at(Mark mark) {
        return mark.at - newer.at > WINDOW.toNanos() ? new Pace(newer, mark, mark) : new Pace(older, newer, mark);
    }

    /** Rows a second; empty where nobody can tell yet. */
    OptionalLong rate() {
        long time = now.at - older.at;
        long rows = now.rows - older.rows;
        return time < SOON.toNanos() || rows <= 0
                ? OptionalLong.empty()
                : OptionalLong.of(Math.round(rows * 1e9 / time));
    }

    /** Seconds until so many rows are done; empty where nobody can tell. */
    OptionalLong secondsTo(long all) {
        OptionalLong rate = rate();
        return rate.isEmpty() || rate.getAsLong() == 0 || all <= now.rows
                ? OptionalLong.empty()
                : OptionalLong.of(Math.ceilDiv(all - now.rows, rate.getAsLong()));
    }
}
