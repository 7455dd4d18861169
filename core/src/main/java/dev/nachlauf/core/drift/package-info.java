/**
 * Whether a source, or what becomes of it, is unlike that of the runs before. Start at {@link
 * dev.nachlauf.core.drift.Drift}, which compares the {@link dev.nachlauf.core.drift.RunTraits} of some finished runs with
 * those of a new one and tells what is out of the ordinary, each time with its evidence. Nothing here decides what
 * follows from it. Figures of columns come from the first rows of a source, so they cost no pass over it.
 */
@NullMarked
package dev.nachlauf.core.drift;

import org.jspecify.annotations.NullMarked;
