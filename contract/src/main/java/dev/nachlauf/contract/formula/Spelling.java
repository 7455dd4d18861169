package dev.nachlauf.contract.formula;

import dev.nachlauf.core.value.Kind;

/**
 * One expression, as a formula and as PostgreSQL writes it.
 *
 * @param stopsEarly whether a part of it may stay uncomputed: behind and, or, case, coalesce, in
 */
record Spelling(String ours, String theirs, Kind kind, boolean stopsEarly) {
    /** Spelled alike by both. */
    static Spelling alike(String text, Kind kind) {
        return new Spelling(text, text, kind, false);
    }
}
