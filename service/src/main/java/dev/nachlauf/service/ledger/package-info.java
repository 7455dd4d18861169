/**
 * The row ledger: a header per run, write and batch, and a packed payload apart that is only ever inserted. {@link
 * dev.nachlauf.service.ledger.Ledger} is the facade; {@code LedgerRecords} is what a run writes through. Rejects become
 * visible in the same transaction that marks their chunk as done, through {@link dev.nachlauf.service.ledger.RejectSink}.
 */
@NullMarked
package dev.nachlauf.service.ledger;

import org.jspecify.annotations.NullMarked;
