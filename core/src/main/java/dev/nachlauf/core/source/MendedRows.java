package dev.nachlauf.core.source;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Certain rows of a source, with what people have corrected in them. The source is read once more, so a row is as it was:
 * typed where the source has types. Where it reads otherwise now, as after a change of its format, nothing is sent.
 */
public final class MendedRows implements SourceReader {
    private final SourceReader source;
    private final Iterator<Mended> mended;
    private final boolean others;
    private @Nullable Mended next;

    /**
     * A row as it was read before.
     *
     * @param number its number
     * @param cells its cells, as text
     * @param corrections what stands in a cell instead, by the name of its column
     */
    public record Mended(long number, List<@Nullable String> cells, Map<String, String> corrections) {}

    /**
     * Reads from the beginning.
     *
     * @param source closed with this
     * @param mended in the order of the source
     * @param others whether the other rows are given as well
     */
    public MendedRows(SourceReader source, Iterator<Mended> mended, boolean others) {
        this.source = source;
        this.mended = mended;
        this.others = others;
        advance();
    }

    private void advance() {
        next = mended.hasNext() ? mended.next() : null;
    }

    @Override
    public @Nullable SourceRow next() {
        while (others || next != null) {
            SourceRow row = source.next();
            if (row == null) {
                requireNone();
                return null;
            }
            Mended known = next;
            if (known != null && known.number() == row.number()) {
                advance();
                return corrected(row, known);
            }
            if (others) {
                return row;
            }
        }
        return null;
    }

    private void requireNone() {
        if (next != null) {
            throw otherwise(next.number(), "is no longer there");
        }
    }

    private SourceRow corrected(SourceRow row, Mended known) {
        List<@Nullable String> now =
                Arrays.stream(row.cells()).map(Values::text).toList();
        if (!now.equals(known.cells())) {
            throw otherwise(row.number(), "reads otherwise now than when it was rejected");
        }
        if (known.corrections().isEmpty()) {
            return row;
        }
        List<@Nullable Object> cells = new ArrayList<>(Arrays.asList(row.cells()));
        List<SourceField> fields = fields();
        for (int column = 0; column < fields.size(); column++) {
            String correction = known.corrections().get(fields.get(column).name());
            if (correction != null) {
                while (cells.size() <= column) {
                    cells.add(null);
                }
                cells.set(column, typed(cells.get(column), correction));
            }
        }
        return new SourceRow(row.number(), row.origin(), cells.toArray(), left(row, known));
    }

    /** What the reader found wrong with a row and nobody has corrected. */
    private static List<Problem> left(SourceRow row, Mended known) {
        return row.problems().stream()
                .filter(problem -> !(problem.place() instanceof Place.InField place
                        && known.corrections().containsKey(place.field())))
                .toList();
    }

    /** In the place of a value goes a value of its kind: people see dates and numbers of a workbook as they are shown here. */
    private static @Nullable Object typed(@Nullable Object before, String correction) {
        if (correction.isEmpty() || before == null || before instanceof String) {
            return correction.isEmpty() ? null : correction;
        }
        try {
            return TextParser.of(Kind.of(Values.kindOf(before)).orElseThrow(), null, null)
                    .parse(correction);
        } catch (ValueProblem problem) {
            // then it is read as a text of the source would be
            return correction;
        }
    }

    private static CannotGoOn otherwise(long row, String how) {
        return new CannotGoOn(Problem.of(
                ProblemCode.SOURCE_READS_OTHERWISE,
                "Row " + row + " " + how + ".",
                "Take back the change of how the job reads its source, or load the whole file with it."));
    }

    @Override
    public List<SourceField> fields() {
        return source.fields();
    }

    @Override
    public List<Detected> options() {
        return source.options();
    }

    @Override
    public List<Kind> kinds() {
        return source.kinds();
    }

    @Override
    public void close() {
        source.close();
    }
}
