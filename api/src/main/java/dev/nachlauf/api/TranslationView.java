package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * What a crosswalk makes of a value, and why.
 *
 * @param kind how the entry that matched is written: from, range, like, when or otherwise
 * @param entry what it matches, as it is written
 * @param entryScope the scope whose table it belongs to; empty for the one without
 * @param line where the entry stands in the document, from 1
 */
public record TranslationView(
        String crosswalk,
        int version,
        String value,
        @Nullable String scope,
        String translation,
        String kind,
        String entry,
        String entryScope,
        @Nullable Integer line) {}
