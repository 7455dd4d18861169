/**
 * What must see the whole load: {@link dev.nachlauf.core.spool.ExternalSort}, a merge sort with a fixed buffer that
 * writes sorted pieces to disk when the buffer is full; small loads never touch the disk. {@link
 * dev.nachlauf.core.spool.RepeatedKeys} finds keys that occur more than once by sorting them, {@link dev.nachlauf.core.spool.KeyedRows} finds
 * rows by key. Nothing here knows jobs,
 * targets or formulas.
 */
@NullMarked
package dev.nachlauf.core.spool;

import org.jspecify.annotations.NullMarked;
