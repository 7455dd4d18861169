package dev.nachlauf.service.run;

import static java.util.Objects.requireNonNull;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.core.load.ControlTotal;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.Amount;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/**
 * What people are told of the figures of a run.
 *
 * @param part whether the run is about some rows only, so that nothing is expected of their sum
 * @param written whether everything is written already
 * @param fails whether a difference fails the run
 */
record ProofSentences(boolean part, boolean written, boolean fails) {
    /** The figures as they are shown. */
    ControlTotalsView view(List<ControlTotal> sums, List<ControlTotalsView.Records> records) {
        return new ControlTotalsView(sums.stream().map(this::view).toList(), records);
    }

    private ControlTotalsView.Sum view(ControlTotal total) {
        return new ControlTotalsView.Sum(
                total.name(),
                text(total.read()),
                text(total.skipped()),
                text(total.rejected()),
                text(total.written()),
                text(total.unreached()),
                total.read().unread(),
                part || total.expected() == null ? null : total.expected().toPlainString(),
                total.target() == null ? null : total.target().toPlainString(),
                !part && total.beyondExpected().isPresent()
                        || total.beyondStored().isPresent());
    }

    private static String text(Amount amount) {
        return amount.sum().toPlainString();
    }

    /** A problem for each figure that is not what it has to be. */
    List<Problem> differences(List<ControlTotal> sums, List<ControlTotalsView.Records> records) {
        List<Problem> problems = new ArrayList<>();
        for (ControlTotal total : sums) {
            if (!part) {
                total.beyondExpected().ifPresent(gap -> problems.add(expected(total, gap)));
            }
            total.beyondStored().ifPresent(gap -> problems.add(stored(total, gap)));
        }
        records.stream()
                .filter(ControlTotalsView.Records::differs)
                .map(this::counted)
                .forEach(problems::add);
        return problems;
    }

    private Problem expected(ControlTotal total, BigDecimal gap) {
        long unread = total.read().unread();
        String expected = requireNonNull(total.expected()).toPlainString();
        return differs("The rows add up to " + text(total.read()) + " in " + total.name() + ", "
                + expected + " is expected: " + apart(gap)
                + (unread == 0 ? "." : "; of " + rows(unread) + " it could not be read."));
    }

    private Problem stored(ControlTotal total, BigDecimal gap) {
        String target = requireNonNull(total.target()).toPlainString();
        return differs("The rows that were written add up to " + text(total.stored()) + " in " + total.name()
                + ", their records in the target to " + target + ": " + apart(gap) + ".");
    }

    private Problem counted(ControlTotalsView.Records records) {
        return differs(records.target() + " held " + records.before() + " records before; with " + records.inserted()
                + " inserted and " + records.deleted() + " deleted there would be "
                + (records.before() + records.inserted() - records.deleted()) + ", but there are " + records.after()
                + ": somebody else, or the target itself, has written there too.");
    }

    private Problem differs(String sentence) {
        return Problem.of(ProblemCode.TOTAL_DIFFERS, sentence, "Find out why. " + remedy());
    }

    private String remedy() {
        if (written) {
            return fails
                    ? "All rows are written; run undo takes them back."
                    : "All rows are written: release the run if that is right (--beyond-limit), or discard it and"
                            + " take it back.";
        }
        return fails
                ? "Nothing was written; start the job again."
                : "Then release the run all the same (--beyond-limit), or discard it.";
    }

    private static String apart(BigDecimal gap) {
        return gap.abs().toPlainString() + (gap.signum() > 0 ? " too much" : " too little");
    }

    private static String rows(long rows) {
        return rows == 1 ? "1 row" : rows + " rows";
    }
}
