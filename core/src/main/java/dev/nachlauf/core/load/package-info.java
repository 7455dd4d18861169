/**
 * Match, compare, decide: pure work on blocks of rows and the records that were found for their keys. Start at {@link
 * dev.nachlauf.core.load.LoadPlanner}. {@link dev.nachlauf.core.load.Outcome} is what can become of a row, {@link
 * dev.nachlauf.core.load.Counts} adds outcomes up, and {@link dev.nachlauf.core.load.Balance} proves that every row is
 * accounted for. Nothing here reads, writes or waits.
 */
@NullMarked
package dev.nachlauf.core.load;

import org.jspecify.annotations.NullMarked;
