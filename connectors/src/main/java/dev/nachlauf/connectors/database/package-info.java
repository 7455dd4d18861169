/**
 * Databases as systems, one package each, and what they share when they are only read: {@link
 * dev.nachlauf.connectors.database.QueryText} takes a query apart enough to bind its parameters and to refuse a second
 * statement, {@link dev.nachlauf.connectors.database.RowCursor} gives rows one after the other out of a read-only
 * transaction. Nothing here knows a dialect.
 */
@NullMarked
package dev.nachlauf.connectors.database;

import org.jspecify.annotations.NullMarked;
