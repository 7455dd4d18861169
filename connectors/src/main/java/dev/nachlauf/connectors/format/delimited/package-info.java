/**
 * Delimited text (RFC 4180 and its everyday relatives) to rows. Start at {@link
 * dev.nachlauf.connectors.format.delimited.DelimitedFormat}. What a job doesn't say is detected from the first lines by
 * {@code Detection}. Parsing itself is the CSV library's work. The format reads a stream once and does no I/O of its
 * own.
 */
@NullMarked
package dev.nachlauf.connectors.format.delimited;

import org.jspecify.annotations.NullMarked;
