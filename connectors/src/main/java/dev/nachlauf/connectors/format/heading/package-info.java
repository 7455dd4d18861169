/**
 * The names above a table, alike for delimited text and for sheets. {@link
 * dev.nachlauf.connectors.format.heading.HeadingSearch} finds the line with the names below titles and blanks, or says
 * that there is none; {@link dev.nachlauf.connectors.format.heading.Heading} makes a name for every column, one that
 * stands only once, also where the file leaves names out or repeats them, and joins headings of two lines.
 */
@NullMarked
package dev.nachlauf.connectors.format.heading;

import org.jspecify.annotations.NullMarked;
