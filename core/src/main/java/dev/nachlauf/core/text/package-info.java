/**
 * Text that a person wrote (a job file, a formula) and places in it. Start at {@link
 * dev.nachlauf.core.text.SourceText}: it alone turns offsets, which the code uses inside, into the lines and columns
 * that people are shown. {@link dev.nachlauf.core.text.NearestNames} finds what somebody probably meant. Nothing here
 * knows what the text means.
 */
@NullMarked
package dev.nachlauf.core.text;

import org.jspecify.annotations.NullMarked;
