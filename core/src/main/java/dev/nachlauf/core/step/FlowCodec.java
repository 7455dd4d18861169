package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemRecord;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowText;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.record.ValueCodec;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A row of a flow as bytes, for what spills to disk: its place, what the steps said of it, its cells and its slots. Rows
 * of a large source pass here several times, so most slots, which are cells as they were read, are not written twice, and
 * cells that nobody has looked at stay bytes.
 */
final class FlowCodec {
    private static final byte OTHER_VALUE = 0;
    /** The slot holds the cell of its own number. */
    private static final byte CELL = 1;

    private static final byte BROKEN = 2;

    /** Cells as values, of a row with which nothing is wrong. */
    private static final byte SOUND = 0;
    /** Cells as values, of a row that the reader found wrong. */
    private static final byte UNREAD = 1;
    /** A row of a text with which nothing is wrong, as it stands there. */
    private static final byte AS_TEXT = 2;

    private FlowCodec() {}

    static byte[] encode(FlowRow row) {
        ByteSink out = new ByteSink(256 + row.slots().length * 16);
        out.int8(row.position());
        out.int8(row.group());
        out.int4(row.generation());
        out.int4(row.settledBy());
        ValueCodec.write(out, row.skipped());
        out.int4(row.stands().length);
        for (long count : row.stands()) {
            out.int8(count);
        }
        amounts(out, row.amounts());
        source(out, row.source());
        slots(out, row.slots(), row.source());
        problems(out, row.problems());
        problems(out, row.warnings());
        return out.toArray();
    }

    private static void amounts(ByteSink out, List<Amount> amounts) {
        out.int4(amounts.size());
        for (Amount amount : amounts) {
            ValueCodec.write(out, amount.sum());
            out.int8(amount.unread());
        }
    }

    private static List<Amount> amounts(ByteBuffer in) {
        int count = in.getInt();
        if (count == 0) {
            return List.of();
        }
        List<Amount> amounts = new ArrayList<>(count);
        for (int i = 0; i < count; i++) {
            amounts.add(new Amount((BigDecimal) Objects.requireNonNull(ValueCodec.read(in)), in.getLong()));
        }
        return amounts;
    }

    private static void source(ByteSink out, SourceRow source) {
        Origin origin = source.origin();
        out.int8(source.number());
        ValueCodec.write(out, origin.file());
        ValueCodec.write(out, origin.sheet());
        out.int8(origin.line());
        ValueCodec.write(out, origin.path());
        out.int4(origin.addresses().size());
        origin.addresses().forEach((field, address) -> {
            ValueCodec.write(out, field);
            ValueCodec.write(out, address);
        });
        if (source.text() != null && source.problems().isEmpty()) {
            out.byte1(AS_TEXT);
            source.text().write(out);
            return;
        }
        out.byte1(source.problems().isEmpty() ? SOUND : UNREAD);
        out.int4(source.cells().length);
        for (Object cell : source.cells()) {
            ValueCodec.write(out, cell);
        }
    }

    private static void slots(ByteSink out, @Nullable Object[] slots, SourceRow source) {
        out.int4(slots.length);
        for (int i = 0; i < slots.length; i++) {
            Object value = slots[i];
            if (value == BrokenInput.VALUE) {
                out.byte1(BROKEN);
            } else if (source.holds(i, value)) {
                out.byte1(CELL);
            } else {
                out.byte1(OTHER_VALUE);
                ValueCodec.write(out, value);
            }
        }
    }

    private static void problems(ByteSink out, List<Problem> problems) {
        out.int4(problems.size());
        for (Problem problem : problems) {
            ValueCodec.write(out, ProblemRecord.values(problem));
        }
    }

    static FlowRow decode(byte[] bytes) {
        ByteBuffer in = ByteBuffer.wrap(bytes);
        long position = in.getLong();
        long group = in.getLong();
        int generation = in.getInt();
        int settledBy = in.getInt();
        Object skipped = ValueCodec.read(in);
        long[] stands = new long[in.getInt()];
        for (int i = 0; i < stands.length; i++) {
            stands[i] = in.getLong();
        }
        List<Amount> amounts = amounts(in);
        long number = in.getLong();
        Origin origin = origin(in);
        byte form = in.get();
        SourceRow sound = form == AS_TEXT
                ? new SourceRow(number, origin, RowText.read(in))
                : new SourceRow(number, origin, cells(in));
        @Nullable Object[] slots = slots(in, sound);
        List<Problem> problems = problems(in);
        SourceRow source = form == UNREAD ? new SourceRow(number, origin, sound.cells(), problems) : sound;
        FlowRow row = new FlowRow(position, source, slots, stands, amounts);
        row.joinGroup(group);
        row.inGeneration(generation);
        row.problems().addAll(problems);
        row.warnings().addAll(problems(in));
        row.settled(settledBy, skipped == null ? null : skipped.toString());
        return row;
    }

    private static @Nullable Object[] cells(ByteBuffer in) {
        @Nullable Object[] cells = new Object[in.getInt()];
        for (int i = 0; i < cells.length; i++) {
            cells[i] = ValueCodec.read(in);
        }
        return cells;
    }

    private static Origin origin(ByteBuffer in) {
        String file = text(in);
        String sheet = text(in);
        long line = in.getLong();
        String path = text(in);
        int count = in.getInt();
        if (count == 0) {
            return new Origin(file, sheet, line, path);
        }
        Map<String, String> addresses = new HashMap<>();
        for (int i = 0; i < count; i++) {
            addresses.put(text(in), text(in));
        }
        return new Origin(file, sheet, line, path, addresses);
    }

    private static @Nullable Object[] slots(ByteBuffer in, SourceRow source) {
        @Nullable Object[] slots = new Object[in.getInt()];
        for (int i = 0; i < slots.length; i++) {
            slots[i] = switch (in.get()) {
                case CELL -> source.cell(i);
                case BROKEN -> BrokenInput.VALUE;
                default -> ValueCodec.read(in);
            };
        }
        return slots;
    }

    private static List<Problem> problems(ByteBuffer in) {
        List<Problem> problems = new ArrayList<>(0);
        int count = in.getInt();
        for (int i = 0; i < count; i++) {
            if (ValueCodec.read(in) instanceof List<?> values) {
                problems.add(ProblemRecord.of(values));
            }
        }
        return problems;
    }

    private static String text(ByteBuffer in) {
        return String.valueOf(ValueCodec.read(in));
    }
}
