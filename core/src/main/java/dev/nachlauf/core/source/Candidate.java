package dev.nachlauf.core.source;

import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** One way to read a field, and how the sample bore it out. */
final class Candidate {
    private static final int EXAMPLES = 3;
    private static final int REMEMBERED = 200;
    /** So many misses can't be outweighed by the rest of a sample: trying on would only cost time. */
    private static final int HOPELESS = Sample.ROWS / 20;

    private static final int LEAST_YEAR = 1900;
    private static final int LAST_YEAR = 2100;
    private static final String COMPACT_DATE = "yyyyMMdd";
    /** Points stand behind the day nearly everywhere: it is taken only where that can't be. */
    private static final String UNLIKELY_DATE = "MM.dd.yyyy";
    /** Words for true and false; a field of them has both. */
    private static final List<String> TRUTHS =
            List.of("yes/no", "y/n", "ja/nein", "j/n", "oui/non", "o/n", "si/no", "sì/no", "sí/no");

    private final Reading reading;
    private final TextParser parser;
    private final List<String> misses = new ArrayList<>();
    /** What the first cells became, to show where two readings differ. */
    private final Map<String, Object> first = new LinkedHashMap<>();

    private int missed;

    private long hits;
    /** Equal for two readings that made the same values of everything. */
    private long values;

    private Candidate(Reading reading) {
        this.reading = reading;
        this.parser = reading.parser();
    }

    /** All ways, the plainest first: where several fit equally well and mean the same, the first is taken. */
    static List<Candidate> all() {
        Stream<Reading> truths = Stream.concat(Stream.of((String) null), TRUTHS.stream())
                .map(pattern -> new Reading(Kind.BOOLEAN, pattern, null));
        Stream<Reading> dates = Stream.of(
                        null,
                        "dd.MM.yyyy",
                        "d.M.yyyy",
                        "dd/MM/yyyy",
                        "MM/dd/yyyy",
                        "d/M/yyyy",
                        "M/d/yyyy",
                        "dd-MM-yyyy",
                        "MM-dd-yyyy",
                        "yyyy/MM/dd",
                        COMPACT_DATE,
                        "MMM d yyyy",
                        "MMM d, yyyy",
                        "d MMM yyyy",
                        "d-MMM-yyyy",
                        UNLIKELY_DATE)
                .map(pattern -> new Reading(Kind.DATE, pattern, null));
        Stream<Reading> numbers = Stream.of(null, "en", "de", "fr", "ch")
                .flatMap(locale -> Stream.of(Kind.INTEGER, Kind.DECIMAL).map(kind -> new Reading(kind, null, locale)));
        Stream<Reading> stamps = Stream.of(
                        null, "dd.MM.yyyy HH:mm", "dd.MM.yyyy HH:mm:ss", "dd/MM/yyyy HH:mm", "MM/dd/yyyy HH:mm")
                .map(pattern -> new Reading(Kind.TIMESTAMP, pattern, null));
        Stream<Reading> times = Stream.of(new Reading(Kind.TIME, null, null));
        return Stream.of(truths, dates, numbers, stamps, times)
                .flatMap(readings -> readings)
                .map(Candidate::new)
                .toList();
    }

    void add(Object cell) {
        if (missed > HOPELESS) {
            return;
        }
        try {
            Object value = Reading.read(cell, reading.kind(), parser);
            if (!plausible(value)) {
                return;
            }
            hits++;
            if (first.size() < REMEMBERED) {
                first.put(shown(cell), value);
            }
            values = 31 * values + comparable(value).hashCode();
        } catch (ValueProblem miss) {
            missed++;
            if (misses.size() < EXAMPLES) {
                misses.add("'" + shown(cell) + "'");
            }
        }
    }

    private static String shown(Object cell) {
        return Values.shortened(String.valueOf(Values.text(cell)));
    }

    /** Eight digits are a date only where the year is one of our time. */
    private boolean plausible(Object value) {
        return !COMPACT_DATE.equals(reading.pattern())
                || value instanceof LocalDate date && date.getYear() >= LEAST_YEAR && date.getYear() <= LAST_YEAR;
    }

    private static Object comparable(@Nullable Object value) {
        return switch (value) {
            case Long whole -> BigDecimal.valueOf(whole).stripTrailingZeros();
            case BigDecimal number -> number.stripTrailingZeros();
            case null -> "";
            default -> value;
        };
    }

    Reading reading() {
        return reading;
    }

    long hits() {
        return isOneSided() ? 0 : hits;
    }

    /** Words such as {@code no} that never meet their opposite are more likely something else. */
    private boolean isOneSided() {
        return reading.kind() == Kind.BOOLEAN
                && reading.pattern() != null
                && first.values().stream().distinct().count() < 2;
    }

    /** Whether another reading that fits as well is always the right one. */
    boolean isUnlikely() {
        return UNLIKELY_DATE.equals(reading.pattern());
    }

    List<String> misses() {
        return misses;
    }

    /** Whether this reading made other values of the sample than that one, though both fit as well. */
    boolean contradicts(Candidate other) {
        return hits == other.hits && family() == other.family() && values != other.values;
    }

    /** Whether both made the same values of everything. */
    boolean agreesWith(Candidate other) {
        return values == other.values;
    }

    /** A cell of which two readings make different values; empty where none is remembered. */
    static String difference(Candidate a, Candidate b) {
        return a.first.keySet().stream()
                .filter(cell -> b.first.containsKey(cell)
                        && !comparable(a.first.get(cell)).equals(comparable(b.first.get(cell))))
                .findFirst()
                .orElse("");
    }

    /** What this reading makes of a cell, for people: {@code 1767 (integer as written in locale de)}. */
    String reads(String cell) {
        return Values.text(first.get(cell)) + " (" + words() + ")";
    }

    private Kind family() {
        return reading.kind().isNumber() ? Kind.DECIMAL : reading.kind();
    }

    /** The reading for people: {@code date like dd.MM.yyyy}. */
    String words() {
        String kind = reading.kind().word();
        if (reading.pattern() != null) {
            return kind + " like " + reading.pattern();
        }
        return reading.locale() == null ? kind : kind + " as written in locale " + reading.locale();
    }
}
