package dev.nachlauf.core.issue;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.record.ValueCodec;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.spool.KeyedRows;
import dev.nachlauf.core.spool.KeyedRows.Match;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Compares what was issued with an export of the system that has it now, row by row, in constant memory. Fields are
 * compared that both have; a cell is equal when it stands for the same number, or is the same text but for spaces around it.
 */
public final class Confirmation {
    /** So many differences are told one by one; all are counted. */
    public static final int MOST_TOLD = 1_000;

    private final List<String> fields;
    private final List<Integer> key;
    /** The columns of the export that are named like the fields; -1 where it has none. */
    private final List<Integer> columns;

    private long confirmed;
    private long differ;
    private long missing;
    private long met;
    private final List<Difference> told = new ArrayList<>();

    /**
     * @param fields those that were issued
     * @param key those by which rows are found; the export has to have them
     * @param export the fields of the export
     */
    public Confirmation(List<String> fields, List<String> key, List<SourceField> export) {
        this.fields = List.copyOf(fields);
        this.key = key.stream().map(fields::indexOf).toList();
        List<String> names = export.stream().map(SourceField::name).toList();
        this.columns = fields.stream().map(names::indexOf).toList();
    }

    /** The fields of the key that the export lacks, or that weren't issued. */
    public static List<String> lacking(List<String> fields, List<String> key, List<SourceField> export) {
        List<String> names = export.stream().map(SourceField::name).toList();
        return key.stream()
                .filter(field -> !fields.contains(field) || !names.contains(field))
                .toList();
    }

    /**
     * What was found.
     *
     * @param issued how many rows were issued
     * @param confirmed those that the export has, with the same values
     * @param missing those that it doesn't have
     * @param others rows of the export that were not issued
     * @param differences the first of them
     */
    public record Result(
            long issued, long confirmed, long differ, long missing, long others, List<Difference> differences) {
        public Result {
            differences = List.copyOf(differences);
        }
    }

    /** How the export shows a row. */
    public enum Found {
        DIFFERS,
        MISSING,
        /** Several of its rows have the key. */
        SEVERAL
    }

    /** A row that is not in the export as it was issued. */
    public record Difference(LedgerRow line, List<String> key, Found found, List<Field> fields) {
        public Difference {
            key = List.copyOf(key);
            fields = List.copyOf(fields);
        }
    }

    /** A field that differs. */
    public record Field(
            String field, @Nullable String issued, @Nullable String there) {}

    /**
     * Compares.
     *
     * @param write the write whose rows were issued, by its place
     * @param export is read to its end
     * @param scratch a folder for what spills to disk
     * @param row called for each row that is looked at; may throw to end it
     */
    public Result compare(
            LedgerChunks ledger, LedgerWrites writes, int write, SourceReader export, Path scratch, Runnable row) {
        long rows = 0;
        try (KeyedRows known = new KeyedRows(scratch)) {
            for (SourceRow one = export.next(); one != null; one = export.next()) {
                row.run();
                List<@Nullable Object> cells = cells(one);
                known.add(key(cells), ++rows, ValueCodec.encode(cells));
            }
            known.finish();
            for (Chunk.Head head : ledger.chunks()) {
                List<LedgerRow> lines = ChunkCodec.rows(ledger.chunk(head.batch()), writes).stream()
                        .filter(line -> line.write() == write && line.outcome() == Outcome.ISSUED)
                        .toList();
                List<Match> matches = known.find(lines.stream()
                        .map(line -> key(Arrays.asList(line.after())))
                        .toList());
                for (int i = 0; i < lines.size(); i++) {
                    row.run();
                    compare(lines.get(i), matches.get(i));
                }
            }
        }
        return new Result(confirmed + differ + missing, confirmed, differ, missing, rows - met, told);
    }

    /** The cells of a row of the export, in the order of the fields. */
    private List<@Nullable Object> cells(SourceRow row) {
        List<@Nullable Object> cells = new ArrayList<>();
        for (int column : columns) {
            cells.add(column < 0 || column >= row.width() ? null : row.cell(column));
        }
        return cells;
    }

    private byte[] key(List<? extends @Nullable Object> values) {
        return key.stream()
                .map(field -> plain(values.get(field)))
                .collect(Collectors.joining("\0"))
                .getBytes(StandardCharsets.UTF_8);
    }

    private void compare(LedgerRow line, Match match) {
        if (match.count() == 0) {
            missing++;
            tell(line, Found.MISSING, List.of());
            return;
        }
        met += match.count();
        List<Field> fieldsThatDiffer = match.count() > 1 ? List.of() : differing(line, match);
        if (match.count() == 1 && fieldsThatDiffer.isEmpty()) {
            confirmed++;
        } else {
            differ++;
            tell(line, match.count() > 1 ? Found.SEVERAL : Found.DIFFERS, fieldsThatDiffer);
        }
    }

    private List<Field> differing(LedgerRow line, Match match) {
        List<@Nullable Object> there = ValueCodec.decode(match.first());
        List<Field> differing = new ArrayList<>();
        for (int field = 0; field < fields.size(); field++) {
            boolean compared = columns.get(field) >= 0;
            if (compared && !plain(line.after()[field]).equals(plain(there.get(field)))) {
                differing.add(
                        new Field(fields.get(field), Values.text(line.after()[field]), Values.text(there.get(field))));
            }
        }
        return differing;
    }

    private void tell(LedgerRow line, Found found, List<Field> differing) {
        if (told.size() < MOST_TOLD) {
            List<String> shown = key.stream()
                    .map(field -> Objects.requireNonNullElse(Values.text(line.after()[field]), ""))
                    .toList();
            told.add(new Difference(line, shown, found, differing));
        }
    }

    /** A value as it is compared: numbers without zeros at their end, texts without spaces around them. */
    private static String plain(@Nullable Object value) {
        String text = Objects.requireNonNullElse(Values.text(value), "").strip();
        if (text.isEmpty() || text.length() > 40 || !text.matches("-?\\d+(\\.\\d+)?")) {
            return text;
        }
        boolean code = text.length() > 1 && text.charAt(0) == '0' && text.charAt(1) != '.';
        return code ? text : new BigDecimal(text).stripTrailingZeros().toPlainString();
    }
}
