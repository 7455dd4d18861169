/**
 * Rows. {@link dev.nachlauf.core.record.SourceRow} is a row as it was read, with its place; {@link
 * dev.nachlauf.core.record.Shape} names and types the slots in which it travels through the steps; {@link
 * dev.nachlauf.core.record.RowCodec} turns blocks of rows into bytes and back, for the ledger and for what spills to
 * disk. Rows know nothing of jobs, targets or files.
 */
@NullMarked
package dev.nachlauf.core.record;

import org.jspecify.annotations.NullMarked;
