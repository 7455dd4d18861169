package dev.nachlauf.core.source;

import dev.nachlauf.core.value.Reading;

/**
 * How a field is most likely read.
 *
 * @param confidence from 0 to 1
 * @param evidence what it was concluded from, for people
 * @param question what has to be asked because the sample fits several readings; empty where there is nothing to ask
 */
public record Guess(Reading reading, double confidence, String evidence, String question) {
    static Guess text(double confidence, String evidence) {
        return new Guess(Reading.TEXT, confidence, evidence, "");
    }
}
