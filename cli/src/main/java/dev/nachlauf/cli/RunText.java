package dev.nachlauf.cli;

import dev.nachlauf.api.RunView;
import dev.nachlauf.api.WriteCountView;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** One run for people. */
final class RunText {
    private static final int MOST_FIELDS = 8;

    private RunText() {}

    static List<String> lines(RunView run) {
        List<String> lines = new ArrayList<>();
        lines.add("run " + run.id() + " of " + run.job() + " version " + run.jobVersion() + ": " + run.state());
        lines.add(run.source() + " → " + targets(run) + ", started by " + run.startedBy());
        String lookedUp = run.files().stream()
                .filter(RunView.RunFile::lookedUp)
                .map(RunView.RunFile::name)
                .distinct()
                .collect(Collectors.joining(", "));
        if (!lookedUp.isEmpty()) {
            lines.add("looked up in " + lookedUp);
        }
        if (!run.note().isEmpty()) {
            lines.add(run.note());
        }
        run.warnings().forEach(warning -> lines.add(warning.rendered()));
        run.reasons().forEach(reason -> lines.add(reason.rendered()));
        lines.addAll(BalanceText.lines(run));
        if (!run.changedFields().isEmpty()) {
            lines.add("changed: "
                    + run.changedFields().entrySet().stream()
                            .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                            .limit(MOST_FIELDS)
                            .map(field -> field.getKey() + " " + Output.number(field.getValue()))
                            .collect(Collectors.joining(", ")));
        }
        if (run.balance().allRejected() > 0) {
            lines.add("see why: nachlauf rejects list --run " + run.id());
        }
        return lines;
    }

    /** Where a run writes; a connection is named again only where it changes. */
    private static String targets(RunView run) {
        StringBuilder text = new StringBuilder();
        String last = "";
        for (WriteCountView write : run.balance().writes()) {
            text.append(text.isEmpty() ? "" : ", ");
            text.append(write.connection().equals(last) ? "" : write.connection() + " ");
            text.append(write.records());
            last = write.connection();
        }
        return text.toString();
    }
}
