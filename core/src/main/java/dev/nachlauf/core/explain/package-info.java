/**
 * Why a field holds what it holds: a row is taken through the steps and the map once more, and {@link
 * dev.nachlauf.core.explain.Explainer} follows the slots of each formula back to what has filled them, down to the cells of
 * the source. What crosswalks translate on the way is heard, not guessed: {@link
 * dev.nachlauf.core.explain.HeardTranslations} stands between a formula and its crosswalk. Nothing is written.
 */
@NullMarked
package dev.nachlauf.core.explain;

import org.jspecify.annotations.NullMarked;
