package dev.nachlauf.cli;

import dev.nachlauf.api.JobTrial;
import dev.nachlauf.api.JobTrial.TrialField;
import dev.nachlauf.api.JobTrial.TrialRecord;
import dev.nachlauf.api.JobTrial.TrialRow;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.cli.Output.Column;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What a job makes of a few rows, for people: the fields of each write one below the other, a few rows side
 * by side. */
final class TrialText {
    private static final int WIDEST = 28;
    private static final int SIDE_BY_SIDE = 4;

    private TrialText() {}

    static List<String> lines(String job, JobTrial trial, boolean onlyRejected) {
        List<String> lines = new ArrayList<>();
        trial.problems().forEach(problem -> lines.add(problem.rendered()));
        if (!trial.sound()) {
            return lines;
        }
        String source = trial.source() == null ? "the source" : trial.source().name();
        lines.add(job + " on the first rows of " + source + "; nothing was written");
        List<TrialRow> rows = trial.rows().stream()
                .filter(row -> !onlyRejected || row.outcome().equals("rejected"))
                .toList();
        for (int start = 0; start < rows.size(); start += SIDE_BY_SIDE) {
            List<TrialRow> block = rows.subList(start, Math.min(rows.size(), start + SIDE_BY_SIDE));
            writes(block).forEach((write, record) -> {
                lines.add("");
                lines.addAll(table(write, record, block));
            });
        }
        lines.add("");
        rows.forEach(row -> lines.addAll(said(row)));
        if (lines.getLast().isEmpty()) {
            lines.removeLast();
        }
        return lines;
    }

    /** The fields of each write that some row goes to. */
    private static Map<String, TrialRecord> writes(List<TrialRow> rows) {
        Map<String, TrialRecord> writes = new LinkedHashMap<>();
        rows.forEach(row -> row.records().forEach(made -> writes.putIfAbsent(made.write(), made)));
        return writes;
    }

    private static List<String> table(String write, TrialRecord any, List<TrialRow> rows) {
        List<Column<TrialField>> columns = new ArrayList<>();
        columns.add(Column.text(write, field -> field.name() + (field.key() ? " (key)" : "")));
        for (TrialRow row : rows) {
            columns.add(Column.text("row " + row.row(), field -> value(row, write, field.name())));
        }
        return Output.table(any.fields(), columns);
    }

    private static String value(TrialRow row, String write, String name) {
        Optional<TrialField> field = row.records().stream()
                .filter(made -> made.write().equals(write))
                .flatMap(made -> made.fields().stream())
                .filter(made -> made.name().equals(name))
                .findFirst();
        if (field.isEmpty()) {
            return "";
        }
        if (field.get().broken() || row.problems().stream().anyMatch(problem -> name.equals(problem.field()))) {
            return "✗";
        }
        if (field.get().later()) {
            return "(found when written)";
        }
        String value = field.get().value();
        return value == null ? "–" : value.length() > WIDEST ? value.substring(0, WIDEST - 1) + "…" : value;
    }

    /** What is to be said of a row beside its values. */
    private static List<String> said(TrialRow row) {
        List<String> lines = new ArrayList<>();
        String start = "row " + row.row() + " (" + row.place() + ")";
        if (row.outcome().equals("skipped")) {
            lines.add(start + " is skipped: " + row.note());
        }
        for (ProblemView problem : row.problems()) {
            // a problem of a single cell names its place itself
            String at = problem.at() == null ? start : "row " + row.row();
            lines.add(at + " is rejected: " + problem.rendered());
        }
        for (ProblemView warning : row.warnings()) {
            lines.add(start + ": " + warning.rendered());
        }
        return lines;
    }
}
