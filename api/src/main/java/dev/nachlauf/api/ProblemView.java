package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * A finding.
 *
 * @param code stable id in kebab-case
 * @param warning whether it stops nothing
 * @param line and {@code column}: the place in a document, from 1; null where it has none
 * @param field and {@code value}: the place in a row
 * @param at where the value stands in the source: a sheet's cell, a path, or a line; null where it is not one cell's
 * @param rendered the finding as text with its place and, for documents, a caret under it
 */
public record ProblemView(
        String code,
        boolean warning,
        String sentence,
        String remedy,
        @Nullable Integer line,
        @Nullable Integer column,
        @Nullable String field,
        @Nullable String value,
        @Nullable String at,
        String rendered) {}
