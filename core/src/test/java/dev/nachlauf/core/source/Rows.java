package dev.nachlauf.core.source;

import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.SourceFormat.Trailer;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A source of given rows; empty cells are null. */
public final class Rows implements SourceReader {
    private final String file;
    private final List<SourceField> fields;
    private final List<String[]> rows;
    private final String trailer;
    private int next;

    public Rows(String file, String names, List<String> rows, String trailer) {
        this.file = file;
        this.fields = Arrays.stream(names.split(";"))
                .map(name -> new SourceField(name, name + " of " + file))
                .toList();
        this.rows = rows.stream().map(row -> row.split(";", -1)).toList();
        this.trailer = trailer;
    }

    /** Rows with names in the first. */
    public static Rows of(String... lines) {
        return new Rows("huts.csv", lines[0], Arrays.asList(lines).subList(1, lines.length), "");
    }

    @Override
    public List<SourceField> fields() {
        return fields;
    }

    @Override
    public List<Detected> options() {
        return List.of();
    }

    @Override
    public @Nullable SourceRow next() {
        if (next == rows.size()) {
            return null;
        }
        String[] row = rows.get(next++);
        @Nullable Object[] cells = new Object[row.length];
        for (int i = 0; i < row.length; i++) {
            cells[i] = row[i].isEmpty() ? null : row[i];
        }
        return new SourceRow(next, Origin.line(file, next + 1), cells);
    }

    @Override
    public Optional<Trailer> trailer() {
        return trailer.isEmpty() ? Optional.empty() : Optional.of(new Trailer(file, List.of(trailer.split(";"))));
    }

    @Override
    public void close() {
        // holds nothing
    }
}
