package dev.nachlauf.core.drift;

import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is typical of a column, by the first rows of a source.
 *
 * @param filled rows that have a value
 * @param blank rows that have none
 * @param typical the median of the sizes of its numbers, zeros left aside; null where it holds no numbers
 * @param dates how many of its values are dates
 * @param lateDays how many of those lie behind the 12th of a month, so that their day can't be a month
 */
public record ColumnTraits(
        String name, long filled, long blank, @Nullable Double typical, long dates, long lateDays) {
    /** Up to here a day may be a month as well. */
    private static final int LAST_MONTH = 12;

    /** The traits of all columns; rows that the reader found broken don't count. */
    public static List<ColumnTraits> of(List<SourceColumn> columns, List<SourceRow> rows) {
        List<ColumnTraits> traits = new ArrayList<>();
        for (int column = 0; column < columns.size(); column++) {
            Tally tally = new Tally(columns.get(column));
            for (SourceRow row : rows) {
                if (row.problems().isEmpty() && column < row.width()) {
                    tally.add(row.cell(column));
                }
            }
            traits.add(tally.traits());
        }
        return traits;
    }

    /** Counts one column. */
    private static final class Tally {
        private final String name;
        private final Kind kind;
        private final TextParser parser;
        private final List<Double> sizes = new ArrayList<>();
        private long filled;
        private long blank;
        private long dates;
        private long lateDays;

        Tally(SourceColumn column) {
            this.name = column.name();
            this.kind = column.reading().kind();
            this.parser = column.reading().parser();
        }

        void add(@Nullable Object cell) {
            if (cell == null || cell instanceof String text && text.isBlank()) {
                blank++;
                return;
            }
            filled++;
            try {
                switch (Reading.read(cell, kind, parser)) {
                    case Number number -> size(Math.abs(number.doubleValue()));
                    case LocalDate date -> date(date.getDayOfMonth());
                    case LocalDateTime time -> date(time.getDayOfMonth());
                    default -> {
                        // texts, truths and times have no further traits
                    }
                }
            } catch (ValueProblem unreadable) {
                // its row is rejected, which tells of it
            }
        }

        private void size(double size) {
            if (size > 0) {
                sizes.add(size);
            }
        }

        private void date(int day) {
            dates++;
            lateDays += day > LAST_MONTH ? 1 : 0;
        }

        ColumnTraits traits() {
            double[] sorted = sizes.stream().mapToDouble(Double::doubleValue).toArray();
            Arrays.sort(sorted);
            Double typical = sorted.length == 0 ? null : (Double) sorted[sorted.length / 2];
            return new ColumnTraits(name, filled, blank, typical, dates, lateDays);
        }
    }

    /** How many rows were looked at. */
    long rows() {
        return filled + blank;
    }

    double blankShare() {
        return rows() == 0 ? 0 : (double) blank / rows();
    }
}
