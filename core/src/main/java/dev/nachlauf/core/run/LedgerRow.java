package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import java.util.BitSet;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * One line of the ledger. Values are in the order of the plan's fields; only changed fields have any.
 *
 * @param number the row of the source, for people
 * @param position what tells the row from others of its batch
 * @param group rows of a group are written together or not at all
 * @param write which write of the job it tells of, from 0; also 0 for a row that no write took
 * @param source the file, and the sheet where there is one
 * @param line the line of the file or the row of the sheet
 * @param note why a row was skipped, or the codes of its problems and warnings
 * @param key the key's parts; null where there is none
 * @param id what identifies the record in the target; null where there is none
 */
public record LedgerRow(
        long number,
        long position,
        long group,
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
        @Nullable Object[] after) {
    private static final @Nullable Object[] NO_VALUES = {};

    /** Whether a record was changed for it. */
    boolean wrote() {
        return outcome == Outcome.INSERTED || outcome == Outcome.UPDATED || outcome == Outcome.DELETED;
    }

    /** The same line, had the write refused the row. */
    LedgerRow refused(List<Problem> problems) {
        return new LedgerRow(
                number,
                position,
                group,
                write,
                source,
                line,
                Outcome.REJECTED,
                passed,
                codes(problems),
                key,
                null,
                new BitSet(),
                NO_VALUES,
                NO_VALUES);
    }

    /** The codes of problems, each once. */
    static String codes(List<Problem> problems) {
        return problems.stream().map(problem -> problem.code().id()).distinct().collect(Collectors.joining(" "));
    }
}
