/**
 * Fixed-width text to rows: every field stands at the same positions of every line. Start at {@link
 * dev.nachlauf.connectors.format.fixed.FixedFormat}. The positions come from the job, for nothing in such a file names
 * them; they count characters, not bytes. Spaces around a value are not part of it.
 */
@NullMarked
package dev.nachlauf.connectors.format.fixed;

import org.jspecify.annotations.NullMarked;
