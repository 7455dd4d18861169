package dev.nachlauf.service.web;

import dev.nachlauf.api.ProblemView;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What is kept from those who look at a run, unless they are shown sensitive values ({@link Sight}). The values themselves stay where they are, for rows are sent again and
 * runs taken back with them.
 *
 * @param columns columns of the source
 * @param fields fields of the targets
 */
public record Masked(Set<String> columns, Set<String> fields) {
    /** Stands for a value that is kept. */
    public static final String HIDDEN = "•••";

    public Masked {
        columns = Set.copyOf(columns);
        fields = Set.copyOf(fields);
    }

    /** Whether any column is kept from whoever calls. */
    public boolean hides() {
        return !columns.isEmpty() && !Sight.isFull();
    }

    /** What is shown of a value. */
    public static @Nullable String value(@Nullable String value, boolean masked) {
        return masked && value != null && !Sight.isFull() ? HIDDEN : value;
    }

    /** A raw row with its masked cells. */
    public List<@Nullable String> cells(List<String> header, List<@Nullable String> raw) {
        if (columns.isEmpty() || Sight.isFull()) {
            return raw;
        }
        List<@Nullable String> shown = new ArrayList<>();
        for (int i = 0; i < raw.size(); i++) {
            // cells beyond the header belong to a row that is out of step, where nothing can be told
            boolean masked = i >= header.size() || raw.size() != header.size() || columns.contains(header.get(i));
            shown.add(value(raw.get(i), masked));
        }
        return shown;
    }

    /** Values by the names of their columns, without those of masked ones. */
    public Map<String, String> values(Map<String, String> values) {
        Map<String, String> shown = new TreeMap<>(values);
        shown.replaceAll((column, value) -> value(value, columns.contains(column)));
        return shown;
    }

    /** A problem without the value it is about, where that is masked or is one of the masked cells. */
    public ProblemView problem(ProblemView problem, List<String> header, List<@Nullable String> raw) {
        String value = problem.value();
        if (value == null || value.isEmpty() || Sight.isFull() || !isMasked(problem.field(), value, header, raw)) {
            return problem;
        }
        return new ProblemView(
                problem.code(),
                problem.warning(),
                problem.sentence().replace(value, HIDDEN),
                problem.remedy().replace(value, HIDDEN),
                problem.line(),
                problem.column(),
                problem.field(),
                HIDDEN,
                problem.at(),
                problem.subject() == null ? null : problem.subject().replace(value, HIDDEN),
                problem.rendered().replace(value, HIDDEN));
    }

    /** Whether a value is made of a masked cell of a row. */
    public boolean isMasked(String value, List<String> header, List<@Nullable String> raw) {
        return !columns.isEmpty() && !Sight.isFull() && isMasked(null, value, header, raw);
    }

    private boolean isMasked(@Nullable String field, String value, List<String> header, List<@Nullable String> raw) {
        if (field != null && (fields.contains(field) || columns.contains(field))) {
            return true;
        }
        for (int i = 0; i < raw.size() && i < header.size(); i++) {
            String cell = raw.get(i);
            if (cell != null && columns.contains(header.get(i)) && isMadeOf(cell, value)) {
                return true;
            }
        }
        return false;
    }

    /** Whether a value is made of a cell: the same, a part of it or more than it, shortened, perhaps in another case. */
    private static boolean isMadeOf(String cell, String value) {
        String whole = cell.strip().toLowerCase(Locale.ROOT);
        String shown = (value.endsWith("…") ? value.substring(0, value.length() - 1) : value)
                .strip()
                .toLowerCase(Locale.ROOT);
        return !whole.isEmpty() && (whole.contains(shown) || shown.contains(whole));
    }
}
