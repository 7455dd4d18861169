package dev.nachlauf.api;

/**
 * Results that are put beside the file that was read.
 *
 * @param state wanted, done or failed
 * @param note where they are, or why they are not there yet; empty before the first attempt
 */
public record PutBackView(String state, String note) {}
