package dev.nachlauf.core.record;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.List;
import java.util.NavigableMap;
import java.util.TreeMap;
import java.util.function.LongPredicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Rows of a source by their numbers, counted from 1, such as {@code 1-10,15}. */
public final class RowRanges implements LongPredicate {
    /** More ranges are not taken at once. */
    public static final int MOST = 10_000;

    private static final Pattern RANGE = Pattern.compile("([0-9]{1,18})(?:-([0-9]{1,18}))?");

    /** The last row of each range by its first one; they neither touch nor overlap. */
    private final NavigableMap<Long, Long> ranges = new TreeMap<>();

    /** No rows. */
    public RowRanges() {}

    /**
     * Reads ranges.
     *
     * @throws CannotGoOn where the text is malformed, with what is wrong
     */
    public static RowRanges of(String text) {
        RowRanges rows = new RowRanges();
        List<String> parts = List.of(text.split(",", -1));
        if (parts.size() > MOST) {
            throw malformed("These are " + parts.size() + " ranges; at most " + MOST + " are taken at once.");
        }
        for (String part : parts) {
            Matcher range = RANGE.matcher(part.strip());
            if (!range.matches()) {
                throw malformed("“" + part.strip() + "” is not a row or a range of rows.");
            }
            long first = Long.parseLong(range.group(1));
            long last = range.group(2) == null ? first : Long.parseLong(range.group(2));
            if (first < 1 || last < first) {
                throw malformed("“" + part.strip() + "” is not a range: rows are counted from 1, the lower one first.");
            }
            rows.add(first, last);
        }
        return rows;
    }

    private static CannotGoOn malformed(String sentence) {
        return new CannotGoOn(
                Problem.of(ProblemCode.REQUEST_MALFORMED, sentence, "Rows are given as numbers, such as 1-10,15."));
    }

    /** Adds the rows from the first to the last. */
    public void add(long first, long last) {
        long from = first;
        long to = last;
        var before = ranges.floorEntry(to + 1);
        while (before != null && before.getValue() >= from - 1) {
            from = Math.min(from, before.getKey());
            to = Math.max(to, before.getValue());
            ranges.remove(before.getKey());
            before = ranges.floorEntry(to + 1);
        }
        ranges.put(from, to);
    }

    /** Adds all rows of others. */
    public void add(RowRanges others) {
        others.ranges.forEach(this::add);
    }

    /** Takes all rows of others away. */
    public void remove(RowRanges others) {
        others.ranges.forEach(this::remove);
    }

    private void remove(long first, long last) {
        var met = ranges.floorEntry(last);
        while (met != null && met.getValue() >= first) {
            ranges.remove(met.getKey());
            if (met.getKey() < first) {
                ranges.put(met.getKey(), first - 1);
            }
            if (met.getValue() > last) {
                ranges.put(last + 1, met.getValue());
            }
            met = ranges.floorEntry(Math.min(last, met.getKey() - 1));
        }
    }

    @Override
    public boolean test(long row) {
        var range = ranges.floorEntry(row);
        return range != null && range.getValue() >= row;
    }

    /** How many rows these are. */
    public long count() {
        return ranges.entrySet().stream()
                .mapToLong(range -> range.getValue() - range.getKey() + 1)
                .sum();
    }

    /** The greatest row; 0 where there is none. */
    public long last() {
        return ranges.isEmpty() ? 0 : ranges.lastEntry().getValue();
    }

    /** The ranges as text, in order; empty where there are no rows. */
    @Override
    public String toString() {
        List<String> texts = new ArrayList<>();
        ranges.forEach((first, last) -> texts.add(first.equals(last) ? first.toString() : first + "-" + last));
        return texts.stream().collect(Collectors.joining(","));
    }
}
