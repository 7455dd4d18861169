package dev.nachlauf.core.run;

import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.spool.RepeatedKeys;
import dev.nachlauf.core.step.RowTransform;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The second pass: source rows through the steps into batches. Batches that are done already are only counted. */
final class BatchReader implements AutoCloseable {
    private static final long MOST_CHARACTERS = 8L * 1024 * 1024;
    private static final int TYPED_CELL = 8;

    private final SourceReader reader;
    private final RowTransform transform;
    private final RepeatedKeys repeated;
    private final Set<Integer> done;
    private final int batchRows;
    private int number;
    private boolean ended;

    BatchReader(SourceReader reader, RowTransform transform, RepeatedKeys repeated, Set<Integer> done, int batchRows) {
        this.reader = reader;
        this.transform = transform;
        this.repeated = repeated;
        this.done = done;
        this.batchRows = batchRows;
    }

    /** The next batch that is not done; null at the end. */
    @Nullable
    Batch next() {
        while (!ended) {
            boolean skip = done.contains(number);
            List<TargetRow> rows = new ArrayList<>(skip ? 0 : batchRows);
            long characters = 0;
            int count = 0;
            while (count < batchRows && characters < MOST_CHARACTERS) {
                SourceRow row = reader.next();
                if (row == null) {
                    ended = true;
                    break;
                }
                count++;
                characters += characters(row);
                if (!skip) {
                    rows.add(checked(transform.apply(row)));
                }
            }
            if (count == 0) {
                return null;
            }
            int current = number++;
            if (!skip) {
                return new Batch(current, rows);
            }
        }
        return null;
    }

    private TargetRow checked(TargetRow row) {
        Object[] key = row.key();
        if (row.skipped() != null || key == null) {
            return row;
        }
        long other = repeated.otherRow(row.source().number());
        return other == 0 ? row : row.rejected(LoadPlanner.repeatedKey(key, other));
    }

    private static long characters(SourceRow row) {
        long characters = 0;
        for (Object cell : row.cells()) {
            characters += cell instanceof String text ? text.length() + 1 : TYPED_CELL;
        }
        return characters;
    }

    @Override
    public void close() {
        reader.close();
    }
}
