/**
 * Records as runs have left them: their history, and the comparison of what a run has written with what is there now.
 * {@link dev.nachlauf.service.record.RecordHistory} and {@link dev.nachlauf.service.record.RunVerification} are the two
 * entries. Everything is read from ledgers; {@code HistoryIndexing} makes the index that finds a record in them without
 * reading them all. Must not change a run or a record.
 */
@NullMarked
package dev.nachlauf.service.record;

import org.jspecify.annotations.NullMarked;
