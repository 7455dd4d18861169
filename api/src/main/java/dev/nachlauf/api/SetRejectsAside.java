package dev.nachlauf.api;

/**
 * Sets rejects aside, so that they are not sent again, or takes them in again.
 *
 * @param aside false for rejects that are to be open again
 * @param note why; needed to set them aside
 */
public record SetRejectsAside(RejectsChosen rejects, boolean aside, String note) {}
