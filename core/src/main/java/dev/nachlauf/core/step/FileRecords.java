package dev.nachlauf.core.step;

import dev.nachlauf.core.job.Step.Among;
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
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * The rows of a file, found by key: read once, and kept on disk in the order of the key, so memory does not grow with the
 * file. Texts are compared exactly, unless the job ignores case. A row whose key has an empty part is never found. For one thread.
 */
public final class FileRecords implements AutoCloseable {
    private static final String REMEDY = "Correct the file in which records are looked up, and start again.";

    private final KeyedRows rows;

    private final boolean fold;

    private FileRecords(KeyedRows rows, boolean fold) {
        this.rows = rows;
        this.fold = fold;
    }

    /**
     * Reads a file to its end, and closes the reader.
     *
     * @param columns of the file, each with the way in which it is read
     * @throws CannotGoOn where a row or a cell that is wanted can't be read: a lookup in half a file would lie
     */
    public static FileRecords read(Finding finding, List<SourceColumn> columns, SourceReader reader, Path scratch) {
        FileRow fields = new FileRow(finding, columns);
        boolean fold = finding.among() instanceof Among.File file && file.ignoreCase();
        KeyedRows rows = new KeyedRows(scratch);
        try (reader) {
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                if (!row.problems().isEmpty()) {
                    throw unreadable(row, row.problems().getFirst());
                }
                @Nullable Object[] values = values(fields, row);
                List<@Nullable Object> parts = fields.of(finding.keyFields(), values);
                if (!parts.contains(null)) {
                    rows.add(key(parts, fold), row.number(), ValueCodec.encode(fields.of(finding.wanted(), values)));
                }
            }
            rows.finish();
            return new FileRecords(rows, fold);
        } catch (RuntimeException e) {
            rows.close();
            throw e;
        }
    }

    private static @Nullable Object[] values(FileRow fields, SourceRow row) {
        try {
            return fields.values(row);
        } catch (FileRow.Unreadable e) {
            throw unreadable(row, e.problem());
        }
    }

    private static byte[] key(List<@Nullable Object> parts, boolean fold) {
        return KeyBytes.of(fold ? parts.stream().map(FileRecords::folded).toList() : parts);
    }

    private static @Nullable Object folded(@Nullable Object part) {
        return part instanceof String text ? text.toUpperCase(Locale.ROOT).toLowerCase(Locale.ROOT) : part;
    }

    private static CannotGoOn unreadable(SourceRow row, Problem problem) {
        Origin origin = row.origin();
        return new CannotGoOn(
                Problem.of(ProblemCode.LOOKUP_FILE, "In " + origin.text() + ": " + problem.sentence(), REMEDY));
    }

    /** One answer per key, in order; the first of several is the one that stands first in the file. */
    public List<Found> find(List<Object[]> keys) {
        List<byte[]> bytes =
                keys.stream().map(key -> key(Arrays.asList(key), fold)).toList();
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
