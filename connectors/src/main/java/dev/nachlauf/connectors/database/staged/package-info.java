/**
 * Writing to a table of a SQL database, as far as it is the same for all of them. A database stages the changes of a batch
 * in a temporary table and says in its own dialect how they are spoken of ({@link
 * dev.nachlauf.connectors.database.staged.StagedTable}); here it is asked which of them its constraints refuse ({@link
 * dev.nachlauf.connectors.database.staged.Refusals}), and a batch is written without those ({@link
 * dev.nachlauf.connectors.database.staged.TransactionUnit}).
 */
@NullMarked
package dev.nachlauf.connectors.database.staged;

import org.jspecify.annotations.NullMarked;
