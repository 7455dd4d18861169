package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;

/**
 * The rows of a held run that are left out.
 *
 * @param rows their numbers in the source, such as {@code 1-10,15}; empty where all are written
 * @param count how many these are
 * @param words who left which rows out, or took them in again, in order
 */
public record LeftOutView(String rows, long count, List<Word> words) {
    /** One decision. */
    public record Word(String rows, boolean leftOut, String by, Instant at) {}
}
