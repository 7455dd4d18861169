package dev.nachlauf.connectors.database.postgresql;

import java.time.LocalTime;

/** Times of day in microseconds since midnight, as PostgreSQL has them: a day of its ends with 24:00, ours a moment before. */
final class TimeOfDay {
    private static final long DAY = 86_400_000_000L;
    private static final int NANOS = 1_000;

    private TimeOfDay() {}

    static LocalTime of(long micros) {
        return micros == DAY ? LocalTime.MAX : LocalTime.ofNanoOfDay(micros * NANOS);
    }

    static long micros(LocalTime time) {
        return time.equals(LocalTime.MAX) ? DAY : time.toNanoOfDay() / NANOS;
    }
}
