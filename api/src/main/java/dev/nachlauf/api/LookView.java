package dev.nachlauf.api;

import java.time.Instant;

/**
 * A look at a source or a system: a preview, a profile, gaps, a check.
 *
 * @param what what was asked for, in a word
 * @param state waiting, looking, done or failed; of the last two the result can be had for ten minutes
 * @param rows rows read so far
 */
public record LookView(String id, String what, String state, long rows, Instant askedAt) {}
