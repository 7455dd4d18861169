package dev.nachlauf.api;

import java.util.List;

/**
 * A value that a crosswalk does not translate.
 *
 * @param scope empty where none was given
 * @param rows how many rows have it
 * @param examples the places of the first of them, for people
 */
public record GapView(String crosswalk, String scope, String value, long rows, List<String> examples) {}
