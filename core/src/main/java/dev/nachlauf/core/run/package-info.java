/**
 * A run from the first row to the balance. Start at {@link dev.nachlauf.core.run.LoadRun#execute}: survey the source
 * (count, keys), settle what a crash left, then batch by batch find, decide, apply, ledger, commit. {@link
 * dev.nachlauf.core.run.RunRecords} is what a run needs kept; the service implements it. Batches are cut by source rows
 * alone, so they are the same after a restart. The run knows no database, no network and no clock.
 */
@NullMarked
package dev.nachlauf.core.run;

import org.jspecify.annotations.NullMarked;
