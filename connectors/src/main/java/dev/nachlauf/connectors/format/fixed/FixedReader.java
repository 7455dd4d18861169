package dev.nachlauf.connectors.format.fixed;

import dev.nachlauf.connectors.format.encoding.BoundedLines;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.SourceFormat.Trailer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Reads one fixed-width file. A line may end early: what follows is empty; text behind the last column is a problem. */
final class FixedReader implements SourceReader {
    private static final int MOST_SKIPPED = 10_000;

    private final String file;
    private final DecodedText text;
    private final List<FixedColumn> columns;
    private final String mark;
    private final BoundedLines lines;
    private final List<Detected> options = new ArrayList<>();
    private @Nullable String ahead;
    private @Nullable Trailer trailer;
    private long number;

    FixedReader(String file, DecodedText text, FormatOptions stated, List<FixedColumn> columns) {
        this.file = file;
        this.text = text;
        this.columns = columns;
        this.mark = stated.text(FixedFormat.TRAILER).orElse("");
        this.lines = new BoundedLines(file, text.reader());
        int skip = stated.integer(FixedFormat.SKIP_LINES, 0, 0, MOST_SKIPPED);
        for (int i = 0; i < skip; i++) {
            lines.next();
        }
        stated.stated().forEach((name, value) -> {
            if (!name.equals(DecodedText.ENCODING)) {
                options.add(Detected.stated(name, value));
            }
        });
        options.add(text.encoding());
    }

    @Override
    public List<SourceField> fields() {
        return columns.stream()
                .map(column -> new SourceField(column.name(), "positions " + column.from() + " to " + column.to()))
                .toList();
    }

    @Override
    public List<Detected> options() {
        return options;
    }

    @Override
    public Optional<Trailer> trailer() {
        return Optional.ofNullable(trailer);
    }

    @Override
    public @Nullable SourceRow next() {
        String line = ahead == null ? filled() : ahead;
        long at = lines.number();
        if (line != null && !mark.isEmpty() && line.startsWith(mark)) {
            ahead = filled();
            if (ahead == null) {
                trailer = new Trailer(
                        Origin.line(file, at).text(), Arrays.asList(line.strip().split("\\s+")));
                return null;
            }
        } else {
            ahead = null;
        }
        return line == null ? null : row(line, at);
    }

    private SourceRow row(String found, long at) {
        boolean replaced = found.indexOf(DecodedText.REPLACEMENT) >= 0;
        String line = replaced ? DecodedText.shown(found) : found;
        number++;
        @Nullable Object[] cells = new Object[columns.size()];
        for (int i = 0; i < cells.length; i++) {
            String cell = columns.get(i).of(line);
            cells[i] = cell.isEmpty() ? null : cell;
        }
        List<Problem> problems = new ArrayList<>(0);
        int end = columns.getLast().to();
        if (line.length() > end && !line.substring(end).isBlank()) {
            problems.add(Problem.of(
                    ProblemCode.ROW_RAGGED,
                    "The line goes on behind position " + end + ", where its last column ends.",
                    "Check columns in the job, or the line."));
        }
        if (replaced) {
            problems.add(text.wrongEncoding(new Place.InFile(file, at), "The line"));
        }
        return new SourceRow(number, Origin.line(file, at), cells, problems);
    }

    private @Nullable String filled() {
        String line = lines.next();
        while (line != null && line.isBlank()) {
            line = lines.next();
        }
        return line;
    }

    @Override
    public void close() {
        lines.close();
    }
}
