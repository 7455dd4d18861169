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
 * @param subject what exactly it is about, for machines; empty mostly
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
        @Nullable String subject,
        String rendered) {}
