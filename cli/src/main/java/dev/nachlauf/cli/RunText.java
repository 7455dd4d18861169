package dev.nachlauf.cli;

import dev.nachlauf.api.RunView;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** One run for people. */
final class RunText {
    private static final int MOST_FIELDS = 8;

    private RunText() {}

    /** @param samples asks for some of what a run plans to change */
    static List<String> lines(RunView run, Samples samples) {
        List<String> lines = new ArrayList<>();
        lines.add("run " + run.id() + " of " + run.job() + " version " + run.jobVersion()
                + (run.environment().isEmpty() ? "" : " in " + run.environment()) + ": " + run.state()
                + mode(run));
        lines.add(run.source() + " → " + targets(run) + ", started by " + run.startedBy());
        chosen(run, lines);
        lookedUp(run, lines);
        if (!run.note().isEmpty()) {
            lines.add(run.note());
        }
        run.warnings().forEach(warning -> lines.add(warning.rendered()));
        run.reasons().forEach(reason -> lines.add(reason.rendered()));
        lines.addAll(BalanceText.lines(run));
        lines.addAll(TotalsText.lines(run.totals(), run.planned()));
        if (!run.changedFields().isEmpty()) {
            lines.add("changed: "
                    + run.changedFields().entrySet().stream()
                            .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                            .limit(MOST_FIELDS)
                            .map(field -> field.getKey() + " " + Output.number(field.getValue()))
                            .collect(Collectors.joining(", ")));
        }
        boolean firstWritten =
                run.reasons().stream().anyMatch(reason -> reason.code().equals("first-rows-written"));
        if (run.planned() || firstWritten) {
            lines.addAll(samples.of(run));
        }
        if (firstWritten) {
            lines.add(samples.readBack(run));
        }
        decisions(run, lines);
        if (run.balance().allRejected() + run.balance().kept() > 0) {
            lines.add("see why: nachlauf rejects list --run " + run.id());
        }
        return lines;
    }

    /** Which rows the run is about, where it isn't about all. */
    private static void chosen(RunView run, List<String> lines) {
        if (run.choice().resubmits() != null) {
            lines.add("sends the rejects of run " + run.choice().resubmits() + " again");
        }
        if (run.choice().rows() != null) {
            lines.add("only rows " + run.choice().rows());
        }
        if (run.choice().where() != null) {
            lines.add("only rows where " + run.choice().where());
        }
    }

    private static void lookedUp(RunView run, List<String> lines) {
        String lookedUp = run.files().stream()
                .filter(RunView.RunFile::lookedUp)
                .map(RunView.RunFile::name)
                .distinct()
                .collect(Collectors.joining(", "));
        if (!lookedUp.isEmpty()) {
            lines.add("looked up in " + lookedUp);
        }
    }

    /** What people have decided about a run. */
    private static void decisions(RunView run, List<String> lines) {
        if (run.leftOut() > 0) {
            lines.add(Output.number(run.leftOut()) + (run.leftOut() == 1 ? " row is" : " rows are") + " left out");
        }
        if (run.releasedBy() != null) {
            lines.add("released by " + run.releasedBy());
        }
        if (run.putBack() != null && !run.putBack().note().isEmpty()) {
            lines.add(run.putBack().note());
        }
        if (run.undoneBy() != null) {
            lines.add("undone by run " + run.undoneBy());
        }
    }

    /** What a run is for, where it isn't to read and write. */
    private static String mode(RunView run) {
        return switch (run.mode()) {
            case "dry-run" -> " (dry run: nothing is written)";
            case "rehearse" -> " (rehearsal: the target takes everything and keeps nothing)";
            case "undo" -> " (undoes run " + run.undoes() + ")";
            default -> "";
        };
    }

    /** Where a run writes, each place once; a connection is named again only where it changes. */
    private static String targets(RunView run) {
        StringBuilder text = new StringBuilder();
        String last = "";
        for (Place place : run.balance().writes().stream()
                .filter(write -> !write.gone())
                .map(write -> new Place(write.connection(), write.records()))
                .distinct()
                .toList()) {
            text.append(text.isEmpty() ? "" : ", ");
            text.append(place.connection.equals(last) ? "" : place.connection + " ");
            text.append(place.records);
            last = place.connection;
        }
        return text.toString();
    }

    private record Place(String connection, String records) {}
}
