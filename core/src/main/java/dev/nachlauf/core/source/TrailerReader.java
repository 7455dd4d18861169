package dev.nachlauf.core.source;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.SourceFormat.Trailer;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;

/**
 * Counts and sums what is read and compares it with the line that closes the file. Where they differ the file arrived
 * incomplete or altered, and nothing of it is to be written.
 */
public final class TrailerReader implements SourceReader {
    private final SourceReader reader;
    private final OptionalInt count;
    private final List<Total> totals;
    private long rows;

    /** A field that is summed, and where in the closing line its sum stands. */
    private static final class Total {
        private final String field;
        private final int index;
        private final TextParser parser;
        private final int position;
        private BigDecimal sum = BigDecimal.ZERO;

        Total(String field, int index, TextParser parser, int position) {
            this.field = field;
            this.index = index;
            this.parser = parser;
            this.position = position;
        }

        void add(SourceRow row) {
            Object cell = index < row.width() ? row.cell(index) : null;
            if (cell != null) {
                try {
                    sum = sum.add((BigDecimal) Reading.read(cell, Kind.DECIMAL, parser));
                } catch (ValueProblem noNumber) {
                    // what can't be read isn't part of the sum; the row is rejected for it
                }
            }
        }
    }

    /**
     * Watches a reader.
     *
     * @param columns how the fields are read
     * @param count the position of the number of rows in the closing line, from 1
     * @param totals the position of the sum by the name of its field
     */
    public TrailerReader(
            SourceReader reader, List<SourceColumn> columns, OptionalInt count, java.util.Map<String, Integer> totals) {
        this.reader = reader;
        this.count = count;
        this.totals = new ArrayList<>();
        List<String> names = reader.fields().stream().map(SourceField::name).toList();
        totals.forEach((field, position) -> {
            String locale = columns.stream()
                    .filter(column -> column.name().equals(field))
                    .findFirst()
                    .map(column -> column.reading().locale())
                    .orElse(null);
            if (!names.contains(field)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FIELD_UNKNOWN,
                        "The source has no field " + field + " to sum for its closing line.",
                        "Correct totals under read, trailer."));
            }
            this.totals.add(
                    new Total(field, names.indexOf(field), TextParser.of(Kind.DECIMAL, null, locale), position));
        });
    }

    @Override
    public List<SourceField> fields() {
        return reader.fields();
    }

    @Override
    public List<Detected> options() {
        return reader.options();
    }

    @Override
    public List<Lack> lacks() {
        return reader.lacks();
    }

    /** What is summed is needed too. */
    @Override
    public void needOnly(BitSet columns) {
        BitSet all = (BitSet) columns.clone();
        totals.forEach(total -> all.set(total.index));
        reader.needOnly(all);
    }

    @Override
    public @Nullable SourceRow next() {
        SourceRow row = reader.next();
        if (row == null) {
            compare();
            return null;
        }
        rows++;
        totals.forEach(total -> total.add(row));
        return row;
    }

    private void compare() {
        Optional<Trailer> found = reader.trailer();
        if (found.isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_DIFFERS,
                    "The closing line is missing after " + rows + " rows: the file is probably cut off.",
                    "Ask the sender for the file again."));
        }
        Trailer trailer = found.get();
        List<Problem> problems = new ArrayList<>();
        if (count.isPresent()) {
            compare(trailer, count.getAsInt(), BigDecimal.valueOf(rows), "rows", null, problems);
        }
        totals.forEach(total ->
                compare(trailer, total.position, total.sum, "the total of " + total.field, total.parser, problems));
        if (!problems.isEmpty()) {
            throw new CannotGoOn(problems);
        }
    }

    private static void compare(
            Trailer trailer,
            int position,
            BigDecimal found,
            String what,
            @Nullable TextParser parser,
            List<Problem> problems) {
        String stated = position <= trailer.cells().size() ? trailer.cells().get(position - 1) : "";
        TextParser numbers = parser == null ? TextParser.of(Kind.DECIMAL, null, null) : parser;
        try {
            if (((BigDecimal) numbers.parse(stated)).compareTo(found) == 0) {
                return;
            }
        } catch (ValueProblem noNumber) {
            // said below
        }
        problems.add(Problem.at(
                Place.NOWHERE,
                ProblemCode.FILE_DIFFERS,
                trailer.place() + ": the closing line states '" + Values.shortened(stated) + "' for " + what + ", but "
                        + Values.text(found) + " was read.",
                "Ask the sender for the file again, or correct trailer in the job."));
    }

    @Override
    public void close() {
        reader.close();
    }
}
