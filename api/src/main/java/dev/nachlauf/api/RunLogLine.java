package dev.nachlauf.api;

import java.time.Instant;

/**
 * Something that happened to a run.
 *
 * @param text what, as a sentence whose subject is the run unless it names somebody
 */
public record RunLogLine(Instant at, String text) {}
