/**
 * Runs: started, carried out, followed, stopped, released. {@link dev.nachlauf.service.run.Runs} is the facade. A run is
 * a one-time task of the scheduler, which revives it when its process dies; {@code RunExecution} carries out one
 * attempt. Whoever carries it out raises the run's epoch, and every later transaction checks that the epoch is still its
 * own. The ledger implements {@link dev.nachlauf.service.run.LedgerOfRun}.
 */
@NullMarked
package dev.nachlauf.service.run;

import org.jspecify.annotations.NullMarked;
