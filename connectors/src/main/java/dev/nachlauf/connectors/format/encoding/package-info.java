/**
 * Bytes to characters for all text formats. Start at {@link dev.nachlauf.connectors.format.encoding.DecodedText}: it
 * settles the encoding from what the job says, a byte order mark, or the first bytes ({@code EncodingDetection}, with
 * the charset library's judgement for the old one-byte encodings), and then streams. Bytes that don't belong to the
 * encoding become the replacement character, which the formats reject with the place.
 */
@NullMarked
package dev.nachlauf.connectors.format.encoding;

import org.jspecify.annotations.NullMarked;
