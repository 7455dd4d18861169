package dev.nachlauf.core.drift;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Which columns of a source were lost, are new, or go by another name than before.
 *
 * @param before in the order of the earlier source
 * @param now in the order of this one
 */
public record ColumnDrift(List<String> before, List<String> now) {
    public ColumnDrift {
        before = List.copyOf(before);
        now = List.copyOf(now);
    }

    /** Columns that are no longer there. */
    public List<String> lost() {
        return before.stream().filter(name -> !now.contains(name)).toList();
    }

    private List<String> added() {
        return now.stream().filter(name -> !before.contains(name)).toList();
    }

    /** The new column that most likely is a lost one: it stands in its place, or is spelled nearly so. */
    private Optional<String> successor(String lost) {
        List<String> added = added();
        int place = before.indexOf(lost);
        if (before.size() == now.size() && added.contains(now.get(place))) {
            return Optional.of(now.get(place));
        }
        return NearestNames.of(lost, added).stream().findFirst();
    }

    /**
     * What there is to be told.
     *
     * @param source the name of the source, for people
     */
    public List<Problem> problems(String source) {
        List<Problem> problems = new ArrayList<>();
        List<String> gone = new ArrayList<>();
        List<String> added = new ArrayList<>(added());
        for (String lost : lost()) {
            Optional<String> successor = successor(lost).filter(added::contains);
            successor.ifPresent(name -> {
                added.remove(name);
                problems.add(lost(
                        "Earlier runs had the column " + lost + ", and " + source + " has not; " + name
                                + " may be its new name.",
                        "Where it is, change the job; until then what was loaded from there is left as it is."));
            });
            if (successor.isEmpty()) {
                gone.add(lost);
            }
        }
        if (!gone.isEmpty()) {
            problems.add(lost(
                    "Earlier runs had " + columns(gone) + ", and " + source + " has not.",
                    "What was loaded from there is left as it is. Ask the sender whether it was renamed."));
        }
        if (!added.isEmpty()) {
            problems.add(Problem.of(
                    ProblemCode.COLUMN_NEW,
                    source + " has " + columns(added) + ", and earlier runs had not.",
                    "Where it matters, map it."));
        }
        return problems;
    }

    private static Problem lost(String sentence, String remedy) {
        return Problem.of(ProblemCode.COLUMN_LOST, sentence, remedy);
    }

    private static String columns(List<String> names) {
        return (names.size() == 1 ? "the column " : "the columns ") + String.join(", ", names);
    }
}
