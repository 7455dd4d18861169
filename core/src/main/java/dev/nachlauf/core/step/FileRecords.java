package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.KeyBytes;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.record.ValueCodec;
import dev.nachlauf.core.spool.KeyedRows;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The rows of a file, found by key: read once, and kept on disk in the order of the key, so memory does not grow with the
 * file. Texts are compared exactly. A row whose key has an empty part is never found. For one thread.
 */
public final class FileRecords implements AutoCloseable {
    private static final String REMEDY = "Correct the file in which records are looked up, and start again.";

    private final KeyedRows rows;

    private FileRecords(KeyedRows rows) {
        this.rows = rows;
    }

    /** A cell that is wanted, and how it is read. */
    private record Cell(String name, int index, Kind kind, TextParser parser) {}

    /**
     * Reads a file to its end, and closes the reader.
     *
     * @param columns of the file, each with the way in which it is read
     * @throws CannotGoOn where a row or a cell that is wanted can't be read: a lookup in half a file would lie
     */
    public static FileRecords read(Finding finding, List<SourceColumn> columns, SourceReader reader, Path scratch) {
        List<Cell> key = cells(finding.keyFields(), columns);
        List<Cell> wanted = cells(finding.wanted(), columns);
        KeyedRows rows = new KeyedRows(scratch);
        try (reader) {
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                if (!row.problems().isEmpty()) {
                    throw unreadable(row, row.problems().getFirst());
                }
                List<@Nullable Object> parts = values(row, key);
                if (!parts.contains(null)) {
                    rows.add(KeyBytes.of(parts), row.number(), ValueCodec.encode(values(row, wanted)));
                }
            }
            rows.finish();
            return new FileRecords(rows);
        } catch (RuntimeException e) {
            rows.close();
            throw e;
        }
    }

    private static List<Cell> cells(List<String> names, List<SourceColumn> columns) {
        List<String> header = columns.stream().map(SourceColumn::name).toList();
        return names.stream()
                .map(name -> {
                    int index = header.indexOf(name);
                    Reading reading = columns.get(index).reading();
                    return new Cell(name, index, reading.kind(), reading.parser());
                })
                .toList();
    }

    private static List<@Nullable Object> values(SourceRow row, List<Cell> cells) {
        List<@Nullable Object> values = new ArrayList<>(cells.size());
        for (Cell cell : cells) {
            Object value = row.cells()[cell.index];
            try {
                values.add(Reading.readOrEmpty("".equals(value) ? null : value, cell.kind, cell.parser));
            } catch (ValueProblem problem) {
                throw unreadable(row, problem.inField(cell.name));
            }
        }
        return values;
    }

    private static CannotGoOn unreadable(SourceRow row, Problem problem) {
        Origin origin = row.origin();
        return new CannotGoOn(
                Problem.of(ProblemCode.LOOKUP_FILE, "In " + origin.text() + ": " + problem.sentence(), REMEDY));
    }

    /** One answer per key, in order; the first of several is the one that stands first in the file. */
    public List<Found> find(List<Object[]> keys) {
        List<byte[]> bytes =
                keys.stream().map(key -> KeyBytes.of(Arrays.asList(key))).toList();
        return rows.find(bytes).stream()
                .map(match -> match.count() == 0
                        ? Found.NOTHING
                        : new Found(
                                match.count(), ValueCodec.decode(match.first()).toArray()))
                .toList();
    }

    @Override
    public void close() {
        rows.close();
    }
}
