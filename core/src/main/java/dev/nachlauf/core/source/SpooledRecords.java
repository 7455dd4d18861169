package dev.nachlauf.core.source;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowCodec;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.value.Kind;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Records of a system as a file of our own: what was read is kept, so that a run that is resumed or repeated sees the
 * same records. The file is a mark, a block with the fields, and blocks of rows, each with its length before it, and behind
 * a length of 0 how many records there are: a file whose end is missing is never taken for a shorter one.
 */
public final class SpooledRecords implements SourceFormat {
    /** The format's word; jobs can't name it. */
    public static final String NAME = "records";

    private static final byte[] MARK = "nachlauf records 2\n".getBytes(StandardCharsets.US_ASCII);
    /** Files of this version end without their count. */
    private static final byte[] WITHOUT_COUNT = "nachlauf records 1\n".getBytes(StandardCharsets.US_ASCII);

    private static final int END = 0;
    private static final int ROWS = 2_000;
    private static final long MOST_CHARACTERS = 4_000_000;
    private static final int LARGEST_BLOCK = 1 << 30;

    /** Writes everything that a cursor gives, and says how many records that were. */
    public static long write(RecordCursor cursor, OutputStream out) throws IOException {
        DataOutputStream data = new DataOutputStream(out);
        data.write(MARK);
        List<@Nullable Object[]> fields = new ArrayList<>();
        for (Field field : cursor.fields()) {
            fields.add(new Object[] {field.name(), field.kind().word()});
        }
        block(data, fields, 2);
        long count = 0;
        long characters = 0;
        List<@Nullable Object[]> rows = new ArrayList<>(ROWS);
        for (Object[] record = cursor.next(); record != null; record = cursor.next()) {
            rows.add(record);
            count++;
            for (Object value : record) {
                characters += value instanceof String text ? text.length() : 0;
            }
            if (rows.size() == ROWS || characters > MOST_CHARACTERS) {
                block(data, rows, fields.size());
                rows.clear();
                characters = 0;
            }
        }
        if (!rows.isEmpty()) {
            block(data, rows, fields.size());
        }
        data.writeInt(END);
        data.writeLong(count);
        data.flush();
        return count;
    }

    private static void block(DataOutputStream out, List<@Nullable Object[]> rows, int width) throws IOException {
        byte[] block = RowCodec.encode(rows, width);
        out.writeInt(block.length);
        out.write(block);
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public List<Setting> options() {
        return List.of();
    }

    @Override
    public Optional<Detected> recognise(String file, byte[] start) {
        return Optional.empty();
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        try {
            return new Reader(bytes.file(), new DataInputStream(new BufferedInputStream(bytes.open())));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static final class Reader implements SourceReader {
        private final String name;
        private final DataInputStream in;
        private final boolean counted;
        private final List<SourceField> fields = new ArrayList<>();
        private final List<Kind> kinds = new ArrayList<>();
        private List<@Nullable Object[]> rows = List.of();
        private int at;
        private long number;

        Reader(String name, DataInputStream in) throws IOException {
            this.name = name;
            this.in = in;
            byte[] mark = in.readNBytes(MARK.length);
            counted = Arrays.equals(mark, MARK);
            if (!counted && !Arrays.equals(mark, WITHOUT_COUNT)) {
                throw damaged();
            }
            for (Object[] field : block()) {
                if (field.length < 2) {
                    throw damaged();
                }
                fields.add(new SourceField(String.valueOf(field[0]), String.valueOf(field[0])));
                kinds.add(Kind.of(String.valueOf(field[1])).orElse(Kind.TEXT));
            }
        }

        private CannotGoOn damaged() {
            return new CannotGoOn(Problem.of(
                    ProblemCode.FILE_MALFORMED, "The kept records of " + name + " are damaged.", "Start a new run."));
        }

        private List<@Nullable Object[]> block() throws IOException {
            int length;
            try {
                length = in.readInt();
                if (counted && length == END) {
                    if (in.readLong() != number) {
                        throw damaged();
                    }
                    return List.of();
                }
            } catch (EOFException e) {
                if (counted) {
                    throw damaged();
                }
                return List.of();
            }
            byte[] block = length <= 0 || length > LARGEST_BLOCK ? new byte[0] : in.readNBytes(length);
            if (block.length != length || length == 0) {
                throw damaged();
            }
            try {
                return RowCodec.decode(block);
            } catch (RuntimeException e) {
                throw damaged();
            }
        }

        @Override
        public List<SourceField> fields() {
            return List.copyOf(fields);
        }

        @Override
        public List<Kind> kinds() {
            return List.copyOf(kinds);
        }

        @Override
        public List<Detected> options() {
            return List.of();
        }

        @Override
        public @Nullable SourceRow next() {
            try {
                if (at == rows.size()) {
                    rows = block();
                    at = 0;
                    if (rows.isEmpty()) {
                        return null;
                    }
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            number++;
            return new SourceRow(number, new Origin(name, "", number, "record " + number), rows.get(at++));
        }

        @Override
        public void close() {
            try {
                in.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
