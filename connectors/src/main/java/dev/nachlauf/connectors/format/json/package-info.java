/**
 * JSON (RFC 8259) and JSON Lines to rows. Start at {@link dev.nachlauf.connectors.format.json.JsonFormat}; {@code
 * JsonWalk} walks the tokens of one document and stops at every record, {@code JsonLines} does so line by line, so
 * that a broken line costs one row. Numbers stay exact, truths stay truths, lists inside a record stay JSON text. Fields of
 * the things around a record are carried down where they stand before it. {@code JsonEdits} gives a document on with edits:
 * it splices values into the text ({@code JsonSplice}), so that all else stays as it is spelled.
 */
@NullMarked
package dev.nachlauf.connectors.format.json;

import org.jspecify.annotations.NullMarked;
