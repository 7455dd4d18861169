package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemRecord;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowCodec;
import dev.nachlauf.core.system.Cells;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Lines of the ledger and rejects as bytes. Lines are written as a {@link LedgerBlock}; those of earlier versions are
 * blocks of {@link RowCodec} with the columns number, line, outcome, passed, note, source, write, position, group, key
 * parts, id, changed fields (as a list of indices), then every field before, then every field after.
 */
public final class ChunkCodec {
    private static final int FIXED = 9;
    private static final int WITH_WRITE = 7;
    private static final int WITH_SOURCE = 6;
    private static final int REJECT_WIDTH = 10;
    private static final int WITH_POSITION = 8;
    private static final int WITH_ROWS = 9;

    private ChunkCodec() {}

    /**
     * The lines of a chunk.
     *
     * @param keyWidth how many parts the widest key of the run's writes has; only the first format needs it
     * @param fields how many fields the widest write has; likewise
     */
    public static List<LedgerRow> rows(byte[] block, int keyWidth, int fields) {
        return block[0] == LedgerBlock.VERSION ? LedgerLines.of(block).rows() : firstFormat(block, keyWidth, fields);
    }

    /** The lines of a chunk of a run with these writes. */
    public static List<LedgerRow> rows(Chunk chunk, LedgerWrites writes) {
        return rows(chunk.rows(), writes.keyWidth(), writes.fieldWidth());
    }

    /** A chunk, unpacked; {@code cells} is how one is read that doesn't say how its records are spelled. */
    static ChunkLines unpack(Chunk chunk, LedgerWrites writes, List<Cells> cells) {
        byte[] block = chunk.rows();
        LedgerLines lines = block[0] == LedgerBlock.VERSION
                ? LedgerLines.of(block)
                : new LedgerLines(cells, firstFormat(block, writes.keyWidth(), writes.fieldWidth()));
        return new ChunkLines(chunk.head(), lines.cells(), lines.rows(), rejects(chunk.rejects()));
    }

    private static List<LedgerRow> firstFormat(byte[] block, int keyWidth, int fields) {
        List<LedgerRow> rows = new ArrayList<>();
        for (@Nullable Object[] values : RowCodec.decode(block)) {
            // chunks of earlier layouts have no source, no write, or neither position nor group
            int fixed = values.length - keyWidth - 2 - 2 * fields;
            int at = fixed + keyWidth;
            List<Object> key =
                    values[fixed] == null ? null : Arrays.asList(Arrays.copyOfRange(values, fixed, fixed + keyWidth));
            Object id = values[at++];
            BitSet changed = new BitSet(fields);
            if (values[at++] instanceof List<?> indices) {
                indices.forEach(index -> changed.set(((Long) index).intValue()));
            }
            long number = number(values[0]);
            long position = fixed < FIXED ? number : number(values[7], number);
            Outcome outcome = Outcome.values()[(int) number(values[2])];
            boolean passed = Boolean.TRUE.equals(values[3]);
            rows.add(new LedgerRow(
                    number,
                    position,
                    fixed < FIXED ? position : number(values[8], position),
                    fixed < WITH_WRITE ? 0 : (int) number(values[6]),
                    fixed < WITH_SOURCE ? "" : text(values[5]),
                    number(values[1]),
                    outcome,
                    outcome,
                    passed,
                    passed && key != null,
                    values[4] == null ? "" : values[4].toString(),
                    new LedgerRow.Values(
                            key,
                            id,
                            null,
                            changed,
                            Arrays.copyOfRange(values, at, at + fields),
                            Arrays.copyOfRange(values, at + fields, at + 2 * fields))));
        }
        return rows;
    }

    private static long number(@Nullable Object value) {
        return number(value, 0);
    }

    private static long number(@Nullable Object value, long otherwise) {
        return value instanceof Long number ? number : otherwise;
    }

    static byte[] packRejects(List<Reject> rejects) {
        List<@Nullable Object[]> packed = new ArrayList<>(rejects.size());
        for (Reject reject : rejects) {
            List<Object> problems = new ArrayList<>();
            for (Problem problem : reject.problems()) {
                problems.add(ProblemRecord.values(problem));
            }
            Origin origin = reject.origin();
            packed.add(new Object[] {
                reject.number(),
                origin.line(),
                origin.file(),
                origin.sheet(),
                origin.path(),
                reject.key(),
                Arrays.asList(reject.cells(), problems),
                reject.position(),
                reject.rows(),
                reject.byTarget()
            });
        }
        return RowCodec.encode(packed, REJECT_WIDTH);
    }

    /** The rejects of a chunk. */
    public static List<Reject> rejects(byte[] block) {
        List<Reject> rejects = new ArrayList<>();
        for (@Nullable Object[] values : RowCodec.decode(block)) {
            List<@Nullable String> cells = new ArrayList<>();
            List<?> lists = list(values[6]);
            for (Object cell : list(lists.get(0))) {
                cells.add(cell == null ? null : cell.toString());
            }
            List<Problem> problems = new ArrayList<>();
            for (Object packed : list(lists.get(1))) {
                problems.add(ProblemRecord.of(list(packed)));
            }
            Origin origin = new Origin(text(values[2]), text(values[3]), number(values[1]), text(values[4]));
            // rejects of the first layout are told apart by their row
            long position = values.length < WITH_POSITION ? number(values[0]) : number(values[7]);
            long rows = values.length < WITH_ROWS ? 1 : number(values[8]);
            boolean byTarget = values.length == REJECT_WIDTH && Boolean.TRUE.equals(values[9]);
            rejects.add(
                    new Reject(number(values[0]), position, rows, origin, text(values[5]), cells, problems, byTarget));
        }
        return rejects;
    }

    private static String text(@Nullable Object value) {
        return value == null ? "" : value.toString();
    }

    private static List<?> list(@Nullable Object value) {
        return value instanceof List<?> list ? list : Collections.emptyList();
    }
}
