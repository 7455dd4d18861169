package dev.nachlauf.cli;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StepCountView;
import dev.nachlauf.api.WriteCountView;
import java.util.ArrayList;
import java.util.Comparator;
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
        reading.add(new Part("outcome unknown", balance.unknown(), '?'));
        List<Part> writing = new ArrayList<>(outcomes(balance));
        writing.add(new Part("rejected", balance.refused(), 'x'));
        List<String> lines = new ArrayList<>();
        lines.add("[" + bar(balance) + "]  " + legend(balance));
        lines.add("read " + Output.number(balance.read()) + " = " + sum(reading));
        balance.steps().stream()
                .filter(BalanceText::didSomething)
                .map(BalanceText::step)
                .forEach(lines::add);
        if (balance.writes().size() < 2) {
            lines.add(run.write() + " " + Output.number(balance.taken()) + taken(run) + sum(writing));
        }
        for (WriteCountView write : balance.writes().size() < 2 ? List.<WriteCountView>of() : balance.writes()) {
            lines.add(write.write() + " " + Output.number(write.taken()) + taken(run) + sum(parts(write)));
        }
        if (balance.unknown() > 0) {
            lines.add("The target has not said what became of " + Output.number(balance.unknown())
                    + " rows; it is asked again until it is known.");
        }
        if (!balance.balanced()) {
            lines.add("THE BALANCE DOES NOT HOLD: this is a defect of Nachlauf, please report it.");
        }
        return lines;
    }

    private static String taken(RunView run) {
        return run.planned() ? " planned = " : " taken = ";
    }

    private static boolean didSomething(StepCountView step) {
        return step.made() + step.merged() + step.skipped() + step.rejected() > 0;
    }

    /** A step's part of the balance. */
    static String step(StepCountView step) {
        List<Part> parts = List.of(
                new Part("out", step.out(), ' '),
                new Part("skipped", step.skipped(), ' '),
                new Part("rejected", step.rejected(), ' '),
                new Part("merged", step.merged(), ' '));
        String made = step.made() > 0 ? " + " + Output.number(step.made()) + " made" : "";
        return "  " + step.step() + " " + Output.number(step.in()) + " in" + made + " = " + sum(parts);
    }

    private static List<Part> parts(WriteCountView write) {
        return List.of(
                new Part("inserted", write.inserted(), '+'),
                new Part("updated", write.updated(), '~'),
                new Part("unchanged", write.unchanged(), '='),
                new Part("deleted", write.deleted(), '-'),
                new Part("issued", write.issued(), '>'),
                new Part("rejected", write.refused(), 'x'));
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
        parts.add(new Part("outcome unknown", balance.unknown(), '?'));
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

    /** Every outcome that occurs has at least one sign; what rounding leaves over goes to the largest. */
    static String bar(BalanceView balance) {
        List<Part> parts = all(balance).stream().filter(part -> part.count > 0).toList();
        long reached = balance.read() - balance.unreached();
        int room = balance.read() == 0 ? 0 : (int) (reached * WIDTH / balance.read());
        Part largest = parts.stream().max(Comparator.comparingLong(Part::count)).orElse(null);
        int others = 0;
        for (Part part : parts) {
            others += part == largest ? 0 : signs(part, balance);
        }
        StringBuilder bar = new StringBuilder();
        for (Part part : parts) {
            bar.repeat(part.sign, part == largest ? Math.max(1, room - others) : signs(part, balance));
        }
        return bar.repeat(' ', Math.max(0, WIDTH - bar.length())).toString();
    }

    private static int signs(Part part, BalanceView balance) {
        return (int) Math.max(1, part.count * WIDTH / balance.read());
    }
}
