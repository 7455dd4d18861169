package dev.nachlauf.api;

import java.util.List;

/**
 * A source field that probably belongs to a target field; it is applied by nobody but a person.
 *
 * @param score from 0 to 1
 * @param evidence what it was concluded from, for people
 */
public record SuggestionView(String source, String target, double score, List<String> evidence) {}
