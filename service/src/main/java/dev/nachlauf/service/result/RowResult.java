package dev.nachlauf.service.result;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.core.load.Outcome;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What became of one row of the source: of itself, or of all that was made of it.
 *
 * @param lines its lines of the ledger
 * @param problems why it, or a part of it, was rejected
 * @param otherwise what became of it where the ledger has no line of its own for it
 */
record RowResult(List<Line> lines, Set<String> problems, String otherwise) {
    /** A line of the ledger, so far as it is shown. */
    record Line(
            String write,
            String outcome,
            String note,
            String key,
            @Nullable String id) {
        static Line of(LedgerRowView row) {
            return new Line(row.write(), row.outcome(), row.note(), String.join(" · ", row.key()), row.id());
        }
    }

    /** What is wrong with a rejected row, and what became of it since. */
    static Set<String> problems(RejectView reject) {
        Set<String> told = new LinkedHashSet<>();
        for (ProblemView problem : reject.problems()) {
            told.add((problem.field() == null ? "" : problem.field() + ": ") + problem.sentence());
        }
        if (reject.closedBy() != null) {
            told.add("It went through with run " + reject.closedBy() + ".");
        } else if (!reject.note().isEmpty()) {
            told.add("Set aside: " + reject.note());
        }
        return told;
    }

    /** A cell of a column; empty where there is nothing to say. */
    String cell(ResultColumn.What what, long run) {
        return switch (what) {
            case OUTCOME -> outcome();
            case MESSAGE -> problems.isEmpty() ? notes() : String.join(" ", problems);
            case KEY -> joined(lines.stream().map(Line::key).toList());
            case ID -> joined(lines.stream().map(Line::id).toList());
            case RUN -> String.valueOf(run);
        };
    }

    /** {@code inserted}; {@code 5 inserted, 1 rejected} of what was made of a row; {@code hut inserted, price unchanged} of writes. */
    private String outcome() {
        if (lines.isEmpty()) {
            return problems.isEmpty() ? otherwise : Outcome.REJECTED.word();
        }
        if (lines.size() == 1) {
            return lines.getFirst().outcome();
        }
        boolean several = lines.stream().map(Line::write).distinct().count() > 1;
        Map<String, Integer> counts = new LinkedHashMap<>();
        lines.forEach(line -> counts.merge((several ? line.write() + " " : "") + line.outcome(), 1, Integer::sum));
        if (counts.size() == 1 && !several) {
            return lines.size() + " " + lines.getFirst().outcome();
        }
        boolean counted = !several || counts.values().stream().anyMatch(count -> count > 1);
        return counts.entrySet().stream()
                .map(entry -> (counted ? entry.getValue() + " " : "") + entry.getKey())
                .collect(Collectors.joining(", "));
    }

    private String notes() {
        return joined(lines.stream().map(Line::note).toList());
    }

    private static String joined(List<@Nullable String> texts) {
        return texts.stream()
                .filter(Objects::nonNull)
                .filter(text -> !text.isEmpty())
                .distinct()
                .collect(Collectors.joining(", "));
    }
}
