package dev.nachlauf.core.drift;

import dev.nachlauf.core.drift.RunTraits.Changes;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.ToDoubleFunction;
import java.util.function.ToLongFunction;
import java.util.stream.LongStream;

/**
 * What is out of the ordinary, compared with some finished runs. With few values nothing is told, for then anything may
 * be ordinary.
 */
public final class Drift {
    /** Fewer values, or rows, say nothing. */
    private static final int ENOUGH = 20;
    /** A source is out of the ordinary that has less than half of the fewest rows, or more than twice the most. */
    private static final int FAR_OFF = 2;
    /** A column that was never empty may be empty in so few rows. */
    private static final double FIRST_BLANKS = 0.05;
    /** So much more of the rows may be empty, or may change records, than in any run before. */
    private static final double MORE = 0.3;
    /** The share of dates that was late in the month, so that it means something when none is. */
    private static final double LATE = 0.2;

    private final List<RunTraits> earlier;

    /** @param earlier newest first */
    public Drift(List<RunTraits> earlier) {
        this.earlier = List.copyOf(earlier);
    }

    /** Whether there is anything to compare with. */
    public boolean knows() {
        return !earlier.isEmpty();
    }

    /** The number of rows. */
    public Optional<Problem> rows(long now) {
        long least = of(RunTraits::rows).min().orElse(now);
        long most = of(RunTraits::rows).max().orElse(now);
        return Math.max(most, now) < ENOUGH || now * FAR_OFF >= least && now <= most * FAR_OFF
                ? Optional.empty()
                : Optional.of(told(
                        "The source has " + now + (now == 1 ? " row" : " rows") + "; " + runs() + " had "
                                + (least == most ? most : least + " to " + most) + ".",
                        "Look whether it is complete, and whether it is the right one."));
    }

    private LongStream of(ToLongFunction<RunTraits> what) {
        return earlier.stream().mapToLong(what);
    }

    /** How many rows make new records or change one; two runs have to agree on what is ordinary. */
    public List<Problem> changes(Changes now) {
        List<Changes> before = earlier.stream()
                .map(RunTraits::changes)
                .filter(changes -> changes.taken() >= ENOUGH)
                .toList();
        if (before.size() < 2 || now.taken() < ENOUGH) {
            return List.of();
        }
        List<Problem> problems = new ArrayList<>();
        share(now, before, Changes::updated, "change records").ifPresent(problems::add);
        share(now, before, Changes::inserted, "make new records").ifPresent(problems::add);
        return problems;
    }

    private Optional<Problem> share(Changes now, List<Changes> before, ToLongFunction<Changes> what, String words) {
        ToDoubleFunction<Changes> share = changes -> (double) what.applyAsLong(changes) / changes.taken();
        double most = before.stream().mapToDouble(share).max().orElse(1);
        return share.applyAsDouble(now) <= most + MORE
                ? Optional.empty()
                : Optional.of(told(
                        what.applyAsLong(now) + " of " + now.taken() + " rows " + words + ", "
                                + percent(share.applyAsDouble(now)) + "; in " + runs() + " at most " + percent(most)
                                + " did.",
                        "Look at some of them: a key, a format or the target may be another one."));
    }

    /**
     * The values of each column that earlier runs had, too.
     *
     * @param sensitive columns of which no figures are told
     */
    public List<Problem> values(List<ColumnTraits> now, Set<String> sensitive) {
        List<Problem> problems = new ArrayList<>();
        for (ColumnTraits column : now) {
            List<ColumnTraits> before = earlier.stream()
                    .flatMap(run -> run.columns().stream())
                    .filter(other -> other.name().equals(column.name()) && other.rows() >= ENOUGH)
                    .toList();
            if (!before.isEmpty() && column.rows() >= ENOUGH) {
                blanks(column, before).ifPresent(problems::add);
                size(column, before, sensitive.contains(column.name())).ifPresent(problems::add);
                dates(column, before).ifPresent(problems::add);
            }
        }
        return problems;
    }

    private Optional<Problem> blanks(ColumnTraits now, List<ColumnTraits> before) {
        double most =
                before.stream().mapToDouble(ColumnTraits::blankShare).max().orElse(1);
        boolean first = most == 0 && now.blankShare() >= FIRST_BLANKS;
        return !first && now.blankShare() <= most + MORE
                ? Optional.empty()
                : Optional.of(
                        told(
                                now,
                                "The column is empty in " + now.blank() + " of " + firstRows(now) + "; in " + runs()
                                        + (most == 0 ? " it never was." : " it was in at most " + percent(most) + "."),
                                "Ask the sender whether something is missing: an empty cell clears the field that it is mapped to."));
    }

    /** A decimal point or a unit that has moved leaves all numbers ten, a hundred or a thousand times as large, or small. */
    private Optional<Problem> size(ColumnTraits now, List<ColumnTraits> before, boolean hidden) {
        double[] sizes = before.stream()
                .filter(column -> column.typical() != null)
                .mapToDouble(ColumnTraits::typical)
                .sorted()
                .toArray();
        Double typical = now.typical();
        if (typical == null || sizes.length == 0 || Powers.areFarApart(sizes)) {
            return Optional.empty();
        }
        double usual = sizes[sizes.length / 2];
        return Powers.between(usual, typical)
                .map(power -> told(
                        now,
                        "The numbers are about " + power + " those of " + runs()
                                + (hidden
                                        ? "."
                                        : ": typically " + Powers.text(typical) + ", before " + Powers.text(usual)
                                                + "."),
                        "Look whether a decimal point or a unit has moved."));
    }

    private Optional<Problem> dates(ColumnTraits now, List<ColumnTraits> before) {
        long dates = before.stream().mapToLong(ColumnTraits::dates).sum();
        long late = before.stream().mapToLong(ColumnTraits::lateDays).sum();
        return now.dates() < ENOUGH || now.lateDays() > 0 || dates == 0 || late < LATE * dates
                ? Optional.empty()
                : Optional.of(told(
                        now,
                        "None of " + now.dates() + " dates lies behind the 12th of its month; in " + runs() + " "
                                + percent((double) late / dates) + " did.",
                        "Look whether day and month have been swapped."));
    }

    private static String firstRows(ColumnTraits column) {
        return column.rows() + " rows";
    }

    private String runs() {
        return earlier.size() == 1 ? "the last run" : "the last " + earlier.size() + " runs";
    }

    private static String percent(double share) {
        return Math.round(share * 100) + " %";
    }

    private static Problem told(String sentence, String remedy) {
        return Problem.of(ProblemCode.UNLIKE_LAST_TIME, sentence, remedy);
    }

    private static Problem told(ColumnTraits column, String sentence, String remedy) {
        return Problem.inField(ProblemCode.UNLIKE_LAST_TIME, column.name(), "", sentence, remedy);
    }
}
