package dev.nachlauf.core.source;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.ArrayList;
import java.util.List;

/**
 * The first rows of a source and what they suggest.
 *
 * @param guesses in the order of the fields
 * @param kinds what the source itself knows of them; empty where it knows nothing
 * @param whole whether the sample is the whole source
 * @param failures why reading ended before the sample was full; empty where it didn't
 */
public record Sample(
        List<SourceField> fields,
        List<Detected> options,
        List<Lack> lacks,
        List<SourceRow> rows,
        List<Guess> guesses,
        List<Kind> kinds,
        boolean whole,
        List<Problem> failures) {
    /** Rows that are enough to guess from. */
    public static final int ROWS = 1_000;

    private static final long MOST_CELLS = 200_000;

    /** Reads at most {@link #ROWS} rows, fewer of very wide ones. The reader stays open. */
    public static Sample take(SourceReader reader) {
        List<SourceField> fields = reader.fields();
        List<FieldGuess> guesses =
                fields.stream().map(field -> new FieldGuess()).toList();
        List<SourceRow> rows = new ArrayList<>();
        List<Problem> failures = List.of();
        boolean whole = false;
        long most = Math.clamp(MOST_CELLS / Math.max(1, fields.size()), 1, ROWS);
        try {
            while (!whole && rows.size() < most) {
                SourceRow row = reader.next();
                if (row == null) {
                    whole = true;
                } else {
                    rows.add(row);
                    guess(guesses, row);
                }
            }
        } catch (CannotGoOn e) {
            failures = e.problems();
        }
        return new Sample(
                fields,
                reader.options(),
                reader.lacks(),
                rows,
                guesses.stream().map(FieldGuess::guess).toList(),
                reader.kinds(),
                whole,
                failures);
    }

    private static void guess(List<FieldGuess> guesses, SourceRow row) {
        if (!row.problems().isEmpty()) {
            guesses.forEach(FieldGuess::unreadable);
            return;
        }
        for (int i = 0; i < guesses.size(); i++) {
            guesses.get(i).add(row.cell(i));
        }
    }

    /** The columns as they were guessed. */
    public List<SourceColumn> columns() {
        List<SourceColumn> columns = new ArrayList<>();
        for (int i = 0; i < fields.size(); i++) {
            Guess guess = guesses.get(i);
            columns.add(
                    kinds.isEmpty()
                            ? new SourceColumn(fields.get(i), guess.reading(), guess.question())
                            : new SourceColumn(fields.get(i), new Reading(kinds.get(i), null, null), ""));
        }
        return columns;
    }
}
