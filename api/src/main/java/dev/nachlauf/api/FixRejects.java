package dev.nachlauf.api;

import java.util.Map;

/**
 * Corrects cells of rejected rows; they count when the rows are sent again.
 *
 * @param set what is to stand in a cell, by the name of its column; an empty text for nothing
 */
public record FixRejects(RejectsChosen rejects, Map<String, String> set) {}
