package dev.nachlauf.service.run;

import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.core.record.RowRanges;
import java.util.List;

/**
 * What has to be known of a run to show its ledger.
 *
 * @param stage which part of it is shown
 * @param writes its writes
 * @param ids the fields of each write that may hold the id of a record which the run makes
 * @param leftOut the rows that a person has left out
 */
public record LedgerOf(
        long run, LedgerStage stage, List<WriteCountView> writes, List<List<String>> ids, RowRanges leftOut) {}
