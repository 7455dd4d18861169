package dev.nachlauf.core.profile;

import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Searches a sample for fields that tell its rows apart: single ones, and where there are none, two or three together.
 * Whether they do so in the whole source has to be counted.
 */
final class KeySearch {
    private static final int MOST = 3;
    private static final int FEWEST_ROWS = 2;
    /** Fields that are tried together, those with the most different values. */
    private static final int TOGETHER = 8;

    private final List<SourceRow> rows;
    private final List<List<Integer>> found = new ArrayList<>();
    /** How many different values each field has; 0 where some row has none, for a part of a key is never blank. */
    private final int[] distinct;

    private KeySearch(Sample sample) {
        this.rows =
                sample.rows().stream().filter(row -> row.problems().isEmpty()).toList();
        this.distinct = IntStream.range(0, sample.fields().size())
                .map(column -> distinct(List.of(column)))
                .toArray();
    }

    /** Sets of fields, the likeliest first; empty where no three fields tell the rows apart. */
    static List<List<String>> candidates(Sample sample) {
        KeySearch search = new KeySearch(sample);
        if (search.rows.size() >= FEWEST_ROWS) {
            search.search();
        }
        return search.found.stream()
                .map(key -> key.stream()
                        .map(column -> sample.fields().get(column).name())
                        .toList())
                .toList();
    }

    private void search() {
        for (int column = 0; column < distinct.length && found.size() < MOST; column++) {
            if (distinct[column] == rows.size()) {
                found.add(List.of(column));
            }
        }
        if (!found.isEmpty()) {
            return;
        }
        List<Integer> likely = IntStream.range(0, distinct.length)
                .boxed()
                .filter(column -> distinct[column] > 1)
                .sorted(Comparator.comparing(column -> -distinct[column]))
                .limit(TOGETHER)
                .toList();
        List<List<Integer>> sets = likely.stream().map(List::of).toList();
        for (int size = 2; size <= MOST && found.isEmpty(); size++) {
            sets = larger(sets, likely);
            for (List<Integer> set : sets) {
                if (found.size() < MOST && distinct(set) == rows.size()) {
                    found.add(set.stream().sorted().toList());
                }
            }
        }
    }

    /** Every set with each of the fields that stand behind its last one. */
    private static List<List<Integer>> larger(List<List<Integer>> sets, List<Integer> fields) {
        List<List<Integer>> larger = new ArrayList<>();
        for (List<Integer> set : sets) {
            for (int next = fields.indexOf(set.getLast()) + 1; next < fields.size(); next++) {
                List<Integer> grown = new ArrayList<>(set);
                grown.add(fields.get(next));
                larger.add(grown);
            }
        }
        return larger;
    }

    /** How many different values some fields have together; 0 where one of them is blank in some row. */
    private int distinct(List<Integer> columns) {
        Set<List<String>> values = new HashSet<>();
        for (SourceRow row : rows) {
            List<String> parts = new ArrayList<>();
            for (int column : columns) {
                String text = Values.text(row.cell(column));
                if (text == null || text.isBlank()) {
                    return 0;
                }
                parts.add(text);
            }
            values.add(parts);
        }
        return values.size();
    }
}
