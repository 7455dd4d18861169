package dev.nachlauf.cli;

import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.ProfileView.FieldProfileView;
import dev.nachlauf.api.ProfileView.KeyAdviceView;
import dev.nachlauf.api.ProfileView.KeyView;
import dev.nachlauf.api.ProfileView.RepeatView;
import dev.nachlauf.api.ProfileView.ValueCountView;
import dev.nachlauf.cli.Output.Column;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a source holds, for people. */
final class ProfileText {
    private static final int SHOWN = 2;
    private static final int WIDEST = 24;

    private ProfileText() {}

    /** Sets of fields as they are written in a call: {@code a,b}. */
    static List<List<String>> keys(List<String> stated) {
        return stated.stream()
                .map(key -> Arrays.stream(key.split(",")).map(String::strip).toList())
                .toList();
    }

    static List<String> lines(ProfileView profile) {
        List<String> lines = new ArrayList<>();
        lines.add(profile.name() + ": " + Output.number(profile.rows()) + " rows"
                + (profile.broken() == 0 ? "" : ", " + Output.number(profile.broken()) + " of them broken"));
        lines.add("");
        lines.addAll(Output.table(
                profile.fields(),
                List.of(
                        Column.text("field", FieldProfileView::name),
                        Column.text("is", FieldProfileView::kind),
                        Column.number("filled", FieldProfileView::filled),
                        Column.number("blank", FieldProfileView::blank),
                        Column.text("distinct", ProfileText::distinct),
                        Column.text("smallest", field -> shortened(field.smallest())),
                        Column.text("largest", field -> shortened(field.largest())),
                        Column.text("length", ProfileText::length),
                        Column.text("shapes", field -> counts(field.shapes())),
                        Column.text("commonest", field -> counts(field.commonest())))));
        for (FieldProfileView field : profile.fields()) {
            details(field, lines);
        }
        if (!profile.remarks().isEmpty()) {
            lines.add("");
            profile.remarks().forEach(remark -> lines.add(remark.sentence()));
        }
        profile.keys().forEach(key -> key(key, lines));
        advice(profile.advice(), lines);
        profile.failures().forEach(failure -> lines.add(failure.rendered()));
        return lines;
    }

    private static String distinct(FieldProfileView field) {
        return (field.distinctExact() ? "" : "about ") + Output.number(field.distinct());
    }

    private static String length(FieldProfileView field) {
        return field.shortest() == field.longest()
                ? String.valueOf(field.longest())
                : field.shortest() + " to " + field.longest();
    }

    private static String counts(List<ValueCountView> counts) {
        return counts.stream()
                .limit(SHOWN)
                .map(count -> shortened(count.value()) + " (" + Output.number(count.count()) + ")")
                .collect(Collectors.joining(", "));
    }

    private static String shortened(@Nullable String text) {
        if (text == null) {
            return "";
        }
        String line = text.replaceAll("\\s", " ");
        return line.length() <= WIDEST ? line : line.substring(0, WIDEST - 1) + "…";
    }

    private static void details(FieldProfileView field, List<String> lines) {
        if (field.misfits() > 0) {
            lines.add("");
            lines.add(field.name() + ": " + Output.number(field.misfits()) + " values are no " + field.kind() + ":");
            field.examples().forEach(misfit -> lines.add("  '" + misfit.value() + "' at " + misfit.place()));
        }
        if (!field.question().isEmpty()) {
            lines.add("");
            lines.add(field.name() + ": " + field.question());
        }
        for (List<ValueCountView> group : field.spellings()) {
            lines.add("");
            lines.add(field.name() + " probably means the same: "
                    + group.stream()
                            .map(count -> "'" + count.value() + "' (" + Output.number(count.count()) + ")")
                            .collect(Collectors.joining(", ")));
        }
    }

    private static void key(KeyView key, List<String> lines) {
        lines.add("");
        lines.add("Key " + String.join(" + ", key.fields()) + ": "
                + (key.repeated() == 0
                        ? "no two of " + Output.number(key.filled()) + " rows share it"
                        : Output.number(key.repeated()) + " rows share it with another"));
        for (RepeatView repeat : key.examples()) {
            lines.add("  " + repeat.key() + " stands " + Output.number(repeat.count()) + " times, first in rows "
                    + repeat.rows().stream().map(Output::number).collect(Collectors.joining(", ")));
        }
    }

    private static void advice(List<KeyAdviceView> advice, List<String> lines) {
        if (advice.isEmpty()) {
            return;
        }
        lines.add("");
        lines.add("Candidate keys, best first:");
        lines.addAll(Output.table(
                advice,
                List.of(
                        Column.text("score", one -> String.valueOf(one.score())),
                        Column.text("source", one -> String.join(" + ", one.source())),
                        Column.text("target", one -> String.join(" + ", one.target())),
                        Column.text("", one -> one.keptUnique() ? "kept unique" : "not kept unique"),
                        Column.text("taken as", KeyAdviceView::formula),
                        Column.number("filled", one -> one.key().filled()),
                        Column.number("repeated", one -> one.key().repeated()),
                        Column.number("insert", KeyAdviceView::insert),
                        Column.number("update", KeyAdviceView::update),
                        Column.number("ambiguous", KeyAdviceView::ambiguous),
                        Column.number("unusable", KeyAdviceView::unusable))));
        for (KeyAdviceView one : advice) {
            String name = String.join(" + ", one.source()) + " → " + String.join(" + ", one.target());
            if (!one.key().examples().isEmpty()) {
                lines.add("  " + name + " repeated: "
                        + one.key().examples().stream()
                                .map(repeat -> repeat.key() + " (" + repeat.count() + ")")
                                .collect(Collectors.joining(", ")));
            }
            if (!one.severalFound().isEmpty()) {
                lines.add("  " + name + " found several times: " + String.join(", ", one.severalFound()));
            }
            if (!one.notFound().isEmpty() && one.update() > 0) {
                lines.add("  " + name + " not found: " + String.join(", ", one.notFound()));
            }
        }
    }
}
