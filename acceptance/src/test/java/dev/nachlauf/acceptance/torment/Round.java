package dev.nachlauf.acceptance.torment;

import java.util.List;
import java.util.Random;

/** One job, run undisturbed first and then with trouble, and compared. */
interface Round {
    /** What differs; empty where all is well. */
    List<String> run();

    List<Trouble> troubles();

    /** How the disturbed run ended. */
    String state();

    /** How many of its rows are left in doubt. */
    long inDoubt();

    /** Takes away what the next rounds don't need. */
    void clearUp();

    /**
     * A round as the seed has it.
     *
     * @param rows how many its source has; 0 for as many as the seed says
     */
    static Round of(Stage stage, long seed, int rows) {
        RandomJob job = new RandomJob(seed, rows);
        return new Random(seed ^ 0xF11E).nextInt(6) == 0 ? new FileRound(stage, job) : new LoadRound(stage, job);
    }
}
