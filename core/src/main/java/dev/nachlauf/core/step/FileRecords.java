package dev.nachlauf.core.step;

import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.plan.PlannedStep.FileField;
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
    private static final String REMEDY = "Correct that file, and start again.";

    private final KeyedRows rows;

    private final boolean fold;

    private FileRecords(KeyedRows rows, boolean fold) {
        this.rows = rows;
        this.fold = fold;
    }

    /**
     * What is asked of the rows of a file.
     *
     * @param key the fields by which rows are found
     * @param fields those that are brought
     * @param made fields that are made of each row before
     * @param ignoreCase whether texts of the key that differ only in case are the same
     */
    public record Wanted(List<String> key, List<String> fields, List<FileField> made, boolean ignoreCase) {
        public Wanted {
            key = List.copyOf(key);
            fields = List.copyOf(fields);
            made = List.copyOf(made);
        }

        /** Rows as they stand in the file. */
        public Wanted(List<String> key, List<String> fields) {
            this(key, fields, List.of(), false);
        }

        /** What a lookup asks. */
        public static Wanted of(Finding finding) {
            boolean fold = finding.among() instanceof Among.File file && file.ignoreCase();
            return new Wanted(finding.keyFields(), finding.wanted(), finding.made(), fold);
        }
    }

    /** Takes the rows of a file. */
    @FunctionalInterface
    public interface Use {
        /** @param key null where a part of it is empty */
        void row(SourceRow row, byte @Nullable [] key, List<@Nullable Object> fields);
    }

    /**
     * Reads a file to its end, and closes the reader.
     *
     * @param columns of the file, each with the way in which it is read
     * @throws CannotGoOn where a row or a cell that is wanted can't be read: an answer from half a file would lie
     */
    public static FileRecords read(Wanted wanted, List<SourceColumn> columns, SourceReader reader, Path scratch) {
        KeyedRows rows = new KeyedRows(scratch);
        try {
            each(wanted, columns, reader, (row, key, fields) -> {
                if (key != null) {
                    rows.add(key, row.number(), ValueCodec.encode(fields));
                }
            });
            rows.finish();
            return new FileRecords(rows, wanted.ignoreCase());
        } catch (RuntimeException e) {
            rows.close();
            throw e;
        }
    }

    /** Gives every row of a file, and closes the reader; as {@link #read}. */
    public static void each(Wanted wanted, List<SourceColumn> columns, SourceReader reader, Use use) {
        FileRow fields = new FileRow(wanted, columns);
        try (reader) {
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                if (!row.problems().isEmpty()) {
                    throw unreadable(row, row.problems().getFirst().sentence());
                }
                @Nullable Object[] values = values(fields, row);
                List<@Nullable Object> parts = fields.of(wanted.key(), values);
                use.row(
                        row,
                        parts.contains(null) ? null : key(parts, wanted.ignoreCase()),
                        fields.of(wanted.fields(), values));
            }
        }
    }

    private static @Nullable Object[] values(FileRow fields, SourceRow row) {
        try {
            return fields.values(row);
        } catch (FileRow.Unreadable e) {
            throw unreadable(row, e.getMessage());
        }
    }

    private static byte[] key(List<@Nullable Object> parts, boolean fold) {
        return KeyBytes.of(fold ? parts.stream().map(FileRecords::folded).toList() : parts);
    }

    private static @Nullable Object folded(@Nullable Object part) {
        return part instanceof String text ? text.toUpperCase(Locale.ROOT).toLowerCase(Locale.ROOT) : part;
    }

    private static CannotGoOn unreadable(SourceRow row, @Nullable String why) {
        Origin origin = row.origin();
        return new CannotGoOn(Problem.of(ProblemCode.LOOKUP_FILE, "In " + origin.text() + ": " + why, REMEDY));
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
