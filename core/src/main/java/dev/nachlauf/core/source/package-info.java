/**
 * What a source tells before it is mapped, and how its parts become one. Start at {@link
 * dev.nachlauf.core.source.Sample}: the first rows with a {@link dev.nachlauf.core.source.Guess} for every field, made
 * by {@link dev.nachlauf.core.source.FieldGuess}. {@link dev.nachlauf.core.source.JoinedReader} makes one source of
 * several files, {@link dev.nachlauf.core.source.SpooledRecords} keeps what a cursor reads. Nothing here knows jobs, and
 * bytes are the formats' business.
 */
@NullMarked
package dev.nachlauf.core.source;

import org.jspecify.annotations.NullMarked;
