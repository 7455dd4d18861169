package dev.nachlauf.core.job;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What may become of a run that people want to be told of. */
public enum Occasion {
    /** It has failed. */
    FAILED,
    /** It waits for a person. */
    HELD,
    /** It has finished and has left rejects. */
    REJECTS,
    /** It has finished, and the one before it had failed. */
    RECOVERED;

    /** The word in a job. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The occasion with this word. */
    public static Optional<Occasion> of(String word) {
        return Arrays.stream(values())
                .filter(occasion -> occasion.word().equals(word))
                .findFirst();
    }

    /** All words. */
    public static List<String> words() {
        return Arrays.stream(values()).map(Occasion::word).toList();
    }
}
