package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One line of the ledger. Values are in the order of the plan's fields; only changed fields have any.
 *
 * @param write which write of the job it tells of, from 0; also 0 for a row that no write took
 * @param source the file, and the sheet where there is one
 * @param line the line of the file or the row of the sheet
 * @param note why a row was skipped, or the codes of its problems and warnings
 * @param key the key's parts; null where there is none
 * @param id what identifies the record in the target; null where there is none
 */
public record LedgerRow(
        long number,
        int write,
        String source,
        long line,
        Outcome outcome,
        boolean passed,
        String note,
        @Nullable List<Object> key,
        @Nullable Object id,
        BitSet changed,
        @Nullable Object[] before,
        @Nullable Object[] after) {}
