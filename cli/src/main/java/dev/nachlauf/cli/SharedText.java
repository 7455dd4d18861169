package dev.nachlauf.cli;

import dev.nachlauf.api.SharedChange;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** What a changed crosswalk or document of pieces touches, in words. */
final class SharedText {
    private static final int MOST_IDS = 20;

    private SharedText() {}

    static List<String> lines(String kind, SharedChange change) {
        List<String> lines = new ArrayList<>();
        lines.add("saved " + kind + " " + change.name() + " version " + change.version());
        if (!change.jobs().isEmpty()) {
            lines.add("used by " + String.join(", ", change.jobs()));
        }
        change.broken().forEach(job -> {
            lines.add(job.job() + " has errors now:");
            job.problems().forEach(problem -> lines.add(problem.rendered()));
        });
        if (!change.healed().isEmpty()) {
            String ids = change.healed().stream()
                    .limit(MOST_IDS)
                    .map(String::valueOf)
                    .collect(Collectors.joining(", "));
            lines.add("heals " + Output.number(change.healed().size())
                    + (change.healed().size() == 1 ? " open reject: " : " open rejects: ") + ids
                    + (change.healed().size() > MOST_IDS ? ", …" : ""));
        }
        return lines;
    }
}
