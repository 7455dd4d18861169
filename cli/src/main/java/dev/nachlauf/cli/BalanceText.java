package dev.nachlauf.cli;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.RunView;
import java.util.ArrayList;
import java.util.List;

/** The row balance in the terminal: a bar with a sign of its own for each outcome, and both sums. */
final class BalanceText {
    static final int WIDTH = 48;

    private BalanceText() {}

    private record Part(String word, long count, char sign) {}

    private static List<Part> outcomes(BalanceView balance) {
        return List.of(
                new Part("inserted", balance.inserted(), '+'),
                new Part("updated", balance.updated(), '~'),
                new Part("unchanged", balance.unchanged(), '='),
                new Part("deleted", balance.deleted(), '-'),
                new Part("issued", balance.issued(), '>'));
    }

    /** The whole balance, three or four lines. */
    static List<String> lines(RunView run) {
        BalanceView balance = run.balance();
        List<Part> reading = new ArrayList<>();
        reading.add(new Part("passed", balance.passed(), ' '));
        reading.add(new Part("skipped", balance.skipped(), '.'));
        reading.add(new Part("rejected", balance.rejected(), 'x'));
        reading.add(new Part("unreached", balance.unreached(), ' '));
        List<Part> writing = new ArrayList<>(outcomes(balance));
        writing.add(new Part("rejected", balance.refused(), 'x'));
        List<String> lines = new ArrayList<>();
        lines.add("[" + bar(balance) + "]  " + legend(balance));
        lines.add("read " + Output.number(balance.read()) + " = " + sum(reading));
        lines.add(run.write() + " " + Output.number(balance.taken()) + " taken = " + sum(writing));
        if (!balance.balanced()) {
            lines.add("THE BALANCE DOES NOT HOLD: this is a defect of Nachlauf, please report it.");
        }
        return lines;
    }

    private static String sum(List<Part> parts) {
        List<String> terms = new ArrayList<>();
        for (Part part : parts) {
            if (part.count > 0) {
                terms.add(Output.number(part.count) + " " + part.word);
            }
        }
        return terms.isEmpty() ? "0" : String.join(" + ", terms);
    }

    private static List<Part> all(BalanceView balance) {
        List<Part> parts = new ArrayList<>(outcomes(balance));
        parts.add(new Part("skipped", balance.skipped(), '.'));
        parts.add(new Part("rejected", balance.allRejected(), 'x'));
        return parts;
    }

    private static String legend(BalanceView balance) {
        List<String> terms = new ArrayList<>();
        for (Part part : all(balance)) {
            if (part.count > 0) {
                terms.add(part.sign + " " + part.word);
            }
        }
        return String.join("  ", terms);
    }

    /** Every outcome that occurs has at least one sign. */
    static String bar(BalanceView balance) {
        StringBuilder bar = new StringBuilder();
        long total = Math.max(1, balance.read());
        for (Part part : all(balance)) {
            long signs = part.count == 0 ? 0 : Math.max(1, part.count * WIDTH / total);
            bar.repeat(part.sign, (int) Math.min(signs, WIDTH - bar.length()));
        }
        boolean whole = balance.unreached() == 0 && balance.read() > 0;
        char last = whole && !bar.isEmpty() ? largest(balance) : ' ';
        int at = last == ' ' ? bar.length() : bar.lastIndexOf(String.valueOf(last));
        return bar.insert(Math.max(0, at), String.valueOf(last).repeat(WIDTH - bar.length()))
                .toString();
    }

    /** What rounding leaves over goes to the largest part. */
    private static char largest(BalanceView balance) {
        Part largest = all(balance).getFirst();
        for (Part part : all(balance)) {
            largest = part.count > largest.count ? part : largest;
        }
        return largest.sign;
    }
}
