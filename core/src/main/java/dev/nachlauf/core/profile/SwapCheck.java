package dev.nachlauf.core.profile;

import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Rows in which two fields look swapped: each holds what the other one usually looks like. Only fields that nearly always
 * have one and the same shape can say so.
 */
final class SwapCheck {
    private static final double NEARLY_ALWAYS = 0.8;
    private static final int ENOUGH = 5;
    private static final int EXAMPLES = 3;

    /** The usual shape by field; null where there is none. */
    private final @Nullable String[] usual;

    private final List<String> names;
    private final Map<String, Swap> swaps = new TreeMap<>();

    /** Two fields that look swapped in some rows. */
    private static final class Swap {
        private final String first;
        private final String second;
        private long rows;
        private final List<String> places = new ArrayList<>();

        Swap(String first, String second) {
            this.first = first;
            this.second = second;
        }
    }

    SwapCheck(Sample sample) {
        names = sample.fields().stream().map(field -> field.name()).toList();
        usual = new String[names.size()];
        for (int i = 0; i < usual.length; i++) {
            usual[i] = usual(sample.rows(), i);
        }
    }

    private static @Nullable String usual(List<SourceRow> rows, int column) {
        Map<String, Integer> counts = new HashMap<>();
        int filled = 0;
        for (SourceRow row : rows) {
            String text = column < row.width() ? Values.text(row.cell(column)) : null;
            if (text != null && row.problems().isEmpty()) {
                counts.merge(ValueShape.of(text), 1, Integer::sum);
                filled++;
            }
        }
        int all = filled;
        return counts.entrySet().stream()
                .filter(shape -> all >= ENOUGH && shape.getValue() >= NEARLY_ALWAYS * all)
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(null);
    }

    void add(SourceRow row, String[] shapes) {
        for (int i = 0; i < shapes.length; i++) {
            String own = usual[i];
            if (own == null || shapes[i].isEmpty() || shapes[i].equals(own)) {
                continue;
            }
            for (int j = 0; j < shapes.length; j++) {
                if (i != j && own.equals(shapes[j]) && shapes[i].equals(usual[j])) {
                    swap(Math.min(i, j), Math.max(i, j), row, i < j);
                }
            }
        }
    }

    private void swap(int first, int second, SourceRow row, boolean count) {
        Swap swap = swaps.computeIfAbsent(first + " " + second, key -> new Swap(names.get(first), names.get(second)));
        if (count) {
            swap.rows++;
            if (swap.places.size() < EXAMPLES) {
                swap.places.add(row.origin().text());
            }
        }
    }

    List<Profile.Remark> remarks() {
        return swaps.values().stream()
                .filter(swap -> swap.rows > 0)
                .map(swap -> new Profile.Remark(
                        Profile.Remark.SWAPPED,
                        List.of(swap.first, swap.second),
                        "In " + swap.rows + (swap.rows == 1 ? " row " : " rows ") + swap.first + " looks like "
                                + swap.second + " and the other way round: "
                                + swap.places.stream().collect(Collectors.joining("; "))))
                .toList();
    }
}
