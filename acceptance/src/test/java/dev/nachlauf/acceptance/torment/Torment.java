package dev.nachlauf.acceptance.torment;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.LongStream;

/** Many rounds over one stage. The seed of each is printed; with it the round is made again. */
final class Torment {
    private Torment() {}

    /**
     * Rounds, the seed of the first, which is taken from the clock unless given, and how many rows each has, as the seed
     * says unless given; ends with 1 where one differed.
     */
    public static void main(String[] arguments) {
        int rounds = arguments.length > 0 ? Integer.parseInt(arguments[0]) : 10;
        long seed = arguments.length > 1 ? Long.parseLong(arguments[1]) : System.currentTimeMillis();
        int rows = arguments.length > 2 ? Integer.parseInt(arguments[2]) : 0;
        System.exit(run(rows, LongStream.range(seed, seed + rounds).toArray()).isEmpty() ? 0 : 1);
    }

    /**
     * The differences of all rounds, each with its seed.
     *
     * @param rows how many each has; 0 for as many as its seed says
     */
    static List<String> run(int rows, long... seeds) {
        List<String> differences = new ArrayList<>();
        Map<String, Integer> states = new TreeMap<>();
        Map<Trouble, Integer> troubles = new TreeMap<>();
        int inDoubt = 0;
        long began = System.nanoTime();
        try (Stage stage = new Stage()) {
            for (long seed : seeds) {
                Round round = Round.of(stage, seed, rows);
                long started = System.nanoTime();
                List<String> found;
                try {
                    found = round.run();
                } catch (RuntimeException e) {
                    found = List.of("broke off: " + e);
                }
                System.out.println("round " + seed + " (" + (System.nanoTime() - started) / 1_000_000 + " ms): " + round
                        + (found.isEmpty() ? "" : "\n  " + String.join("\n  ", found)));
                found.forEach(difference -> differences.add(round.toString() + ": " + difference));
                states.merge(round.state(), 1, Integer::sum);
                round.troubles().forEach(trouble -> troubles.merge(trouble, 1, Integer::sum));
                inDoubt += round.inDoubt() > 0 ? 1 : 0;
                if (found.isEmpty()) {
                    round.clearUp();
                }
            }
        }
        System.out.println(seeds.length + " rounds from seed " + seeds[0] + " in "
                + (System.nanoTime() - began) / 1_000_000_000
                + " s; " + states + "; " + troubles + "; with rows left in doubt: " + inDoubt + "; differences: "
                + differences.size());
        return differences;
    }
}
