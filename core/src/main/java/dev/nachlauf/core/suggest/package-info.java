/**
 * Suggestions for a map: which field of a source probably belongs to which field of a target, from names, kinds and the
 * overlap of values, each with its evidence. Start at {@link dev.nachlauf.core.suggest.Suggester}. A suggestion is never
 * applied by itself: a person confirms it.
 */
@NullMarked
package dev.nachlauf.core.suggest;

import org.jspecify.annotations.NullMarked;
