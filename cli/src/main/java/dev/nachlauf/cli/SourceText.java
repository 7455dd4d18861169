package dev.nachlauf.cli;

import dev.nachlauf.api.SourceView;
import dev.nachlauf.api.SourceView.OptionView;
import dev.nachlauf.api.SourceView.SourceFieldView;
import dev.nachlauf.api.SourceView.SourceRowView;
import dev.nachlauf.cli.Output.Column;
import java.util.ArrayList;
import java.util.List;

/** What a source looks like, for people. */
final class SourceText {
    private static final int WIDEST = 22;

    private SourceText() {}

    static List<String> lines(SourceView view) {
        List<String> lines = new ArrayList<>();
        lines.add(view.name() + ": " + view.format() + ", " + sure(view.formatConfidence()) + " ("
                + view.formatEvidence() + ")");
        if (view.files().size() > 1) {
            view.files().forEach(file -> lines.add("  " + file.member() + ": " + file.format()));
        }
        if (!view.options().isEmpty()) {
            lines.add("");
            lines.addAll(Output.table(
                    view.options(),
                    List.of(
                            Column.text("option", OptionView::option),
                            Column.text("value", option -> option.value().isEmpty() ? "(none)" : option.value()),
                            Column.text("sure", option -> sure(option.confidence())),
                            Column.text("because", OptionView::evidence))));
        }
        lines.add("");
        lines.addAll(Output.table(
                view.fields(),
                List.of(
                        Column.text("field", SourceFieldView::name),
                        Column.text("is", SourceText::reading),
                        Column.text("sure", field -> sure(field.confidence())),
                        Column.text("because", SourceText::because))));
        lines.add("");
        lines.addAll(rows(view));
        lines.add("");
        lines.add(
                view.whole()
                        ? "That is concluded from all " + Output.number(view.sampled()) + " rows."
                        : "That is concluded from the first " + Output.number(view.sampled()) + " rows.");
        lines.addAll(view.lacks());
        view.failures().forEach(failure -> lines.add(failure.rendered()));
        lines.add("");
        lines.add("In a job:");
        view.read().lines().forEach(line -> lines.add("  " + line));
        return lines;
    }

    private static String sure(double confidence) {
        return Math.round(confidence * 100) + " %";
    }

    private static String reading(SourceFieldView field) {
        if (!field.question().isEmpty()) {
            return "text?";
        }
        String detail = field.pattern() != null ? field.pattern() : field.locale();
        return detail == null ? field.kind() : field.kind() + " " + detail;
    }

    private static String because(SourceFieldView field) {
        return field.question().isEmpty() ? field.evidence() : "to be said: " + field.question();
    }

    private static List<String> rows(SourceView view) {
        List<Column<SourceRowView>> columns = new ArrayList<>();
        columns.add(Column.number("row", SourceRowView::row));
        for (int i = 0; i < view.fields().size(); i++) {
            int index = i;
            columns.add(Column.text(shortened(view.fields().get(i).name()), row -> cell(row, index)));
        }
        List<String> lines = new ArrayList<>(Output.table(view.rows(), columns));
        for (SourceRowView row : view.rows()) {
            row.wrong()
                    .forEach(problem -> lines.add("row " + row.row() + " (" + row.place() + ") " + problem.rendered()));
        }
        return lines;
    }

    private static String cell(SourceRowView row, int index) {
        String raw = index < row.raw().size() ? row.raw().get(index) : null;
        return raw == null ? "" : shortened(raw.replaceAll("\\s", " "));
    }

    private static String shortened(String text) {
        return text.length() <= WIDEST ? text : text.substring(0, WIDEST - 1) + "…";
    }
}
