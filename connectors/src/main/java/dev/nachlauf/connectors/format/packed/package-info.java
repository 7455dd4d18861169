/**
 * What files are packed in: gzip (RFC 1952) and zip. Both give the files inside as if they lay there unpacked. What comes
 * out is bounded by {@code BoundedExpansion}, so that a small file can't become an endless one. A workbook is an archive
 * too, but a format of its own, and is left alone here. Names inside an archive are shown, never used as a path.
 */
@NullMarked
package dev.nachlauf.connectors.format.packed;

import org.jspecify.annotations.NullMarked;
