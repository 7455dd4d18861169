package dev.nachlauf.cli;

import dev.nachlauf.api.ControlTotalsView;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The figures that prove a run, in the terminal: one line each, which adds up like the balance. */
final class TotalsText {
    private TotalsText() {}

    /** Nothing where the run has none. */
    static List<String> lines(@Nullable ControlTotalsView totals, boolean planned) {
        List<String> lines = new ArrayList<>();
        if (totals != null) {
            totals.sums().forEach(sum -> lines.add(line(sum, planned)));
            totals.records().forEach(records -> lines.add(line(records)));
        }
        return lines;
    }

    private static String line(ControlTotalsView.Sum sum, boolean planned) {
        List<String> terms = new ArrayList<>();
        term(terms, sum.written(), planned ? "to write" : "written");
        term(terms, sum.skipped(), "skipped");
        term(terms, sum.rejected(), "rejected");
        term(terms, sum.unreached(), "unreached");
        String line = "sum of " + sum.name() + " " + number(sum.read()) + " = "
                + (terms.isEmpty() ? "0" : String.join(" + ", terms));
        return line
                + (sum.expected() == null ? "" : "; expected " + number(sum.expected()))
                + (sum.target() == null ? "" : "; in the target " + number(sum.target()))
                + (sum.unread() == 0 ? "" : "; unreadable in " + Output.number(sum.unread()) + rows(sum.unread()))
                + (sum.differs() ? "  DIFFERS" : "");
    }

    private static String rows(long rows) {
        return rows == 1 ? " row" : " rows";
    }

    private static void term(List<String> terms, String figure, String word) {
        if (new BigDecimal(figure).signum() != 0) {
            terms.add(number(figure) + " " + word);
        }
    }

    /** A number with separators before its point. */
    private static String number(String figure) {
        int point = figure.indexOf('.');
        String whole = point < 0 ? figure : figure.substring(0, point);
        boolean large = whole.length() > 18;
        return (large || whole.equals("-0") ? whole : Output.number(Long.parseLong(whole)))
                + (point < 0 ? "" : figure.substring(point));
    }

    private static String line(ControlTotalsView.Records records) {
        return "records of " + records.target() + ": " + Output.number(records.before()) + " before + "
                + Output.number(records.inserted()) + " inserted - " + Output.number(records.deleted())
                + " deleted; " + Output.number(records.after()) + " after"
                + (records.differs() ? "  DIFFERS" : "");
    }
}
