/**
 * Rows. {@link dev.nachlauf.core.record.SourceRow} is a row as it was read, with its place; {@link
 * dev.nachlauf.core.record.Shape} names and types the slots in which it travels through the steps; {@link
 * dev.nachlauf.core.record.RowBlock} holds rows behind the map as bytes, each cell in the form of its {@link
 * dev.nachlauf.core.record.CellCodec}; {@link dev.nachlauf.core.record.RowCodec} packs rows for what spills to disk. Rows
 * know nothing of jobs, targets or files.
 */
@NullMarked
package dev.nachlauf.core.record;

import org.jspecify.annotations.NullMarked;
