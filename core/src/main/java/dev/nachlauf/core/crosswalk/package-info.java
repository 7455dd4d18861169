/**
 * Crosswalks: tables that translate source values into target values. Start at {@link
 * dev.nachlauf.core.crosswalk.CrosswalkFile} (document to {@link dev.nachlauf.core.crosswalk.Crosswalk}) and {@link
 * dev.nachlauf.core.crosswalk.Matcher} (entries compiled so that the time for a value doesn't grow with their number).
 * Formulas call a matcher as a {@link dev.nachlauf.core.formula.Translation}. Nothing here knows jobs or runs.
 */
@NullMarked
package dev.nachlauf.core.crosswalk;

import org.jspecify.annotations.NullMarked;
