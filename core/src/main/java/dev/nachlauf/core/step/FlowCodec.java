package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemRecord;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.record.ValueCodec;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A row of a flow as bytes, for what spills to disk. */
final class FlowCodec {
    /** Stands for a slot without a value; no value of a row is a list. */
    private static final List<String> BROKEN = List.of("broken");

    private FlowCodec() {}

    static byte[] encode(FlowRow row) {
        SourceRow source = row.source();
        Origin origin = source.origin();
        List<@Nullable Object> slots = new ArrayList<>(row.slots().length);
        for (Object slot : row.slots()) {
            slots.add(slot == BrokenInput.VALUE ? BROKEN : slot);
        }
        List<Object> addresses = new ArrayList<>();
        origin.addresses().forEach((field, address) -> {
            addresses.add(field);
            addresses.add(address);
        });
        List<Object> stands = new ArrayList<>();
        for (long count : row.stands()) {
            stands.add(count);
        }
        return ValueCodec.encode(Arrays.asList(
                row.position(),
                row.group(),
                (long) row.generation(),
                (long) row.settledBy(),
                row.skipped(),
                stands,
                slots,
                problems(row.problems()),
                problems(row.warnings()),
                source.number(),
                origin.file(),
                origin.sheet(),
                origin.line(),
                origin.path(),
                addresses,
                Arrays.asList(source.cells()),
                !source.problems().isEmpty()));
    }

    private static List<Object> problems(List<Problem> problems) {
        return problems.stream()
                .map(problem -> (Object) ProblemRecord.values(problem))
                .toList();
    }

    static FlowRow decode(byte[] bytes) {
        List<@Nullable Object> values = ValueCodec.decode(bytes);
        Map<String, String> addresses = new HashMap<>();
        List<?> pairs = list(values.get(14));
        for (int i = 0; i < pairs.size(); i += 2) {
            addresses.put(String.valueOf(pairs.get(i)), String.valueOf(pairs.get(i + 1)));
        }
        Origin origin = new Origin(
                text(values.get(10)), text(values.get(11)), number(values.get(12)), text(values.get(13)), addresses);
        List<Problem> problems = list(values.get(7)).stream()
                .map(one -> ProblemRecord.of(list(one)))
                .toList();
        @Nullable Object[] cells = list(values.get(15)).toArray();
        List<Problem> unread = Boolean.TRUE.equals(values.get(16)) ? problems : List.of();
        SourceRow source = new SourceRow(number(values.get(9)), origin, cells, unread);
        @Nullable Object[] slots = list(values.get(6)).toArray();
        for (int i = 0; i < slots.length; i++) {
            if (slots[i] instanceof List<?>) {
                slots[i] = BrokenInput.VALUE;
            }
        }
        long[] stands =
                list(values.get(5)).stream().mapToLong(FlowCodec::number).toArray();
        FlowRow row = new FlowRow(number(values.get(0)), source, slots, stands);
        row.joinGroup(number(values.get(1)));
        row.inGeneration((int) number(values.get(2)));
        row.problems().addAll(problems);
        row.warnings()
                .addAll(list(values.get(8)).stream()
                        .map(one -> ProblemRecord.of(list(one)))
                        .toList());
        Object skipped = values.get(4);
        row.settled((int) number(values.get(3)), skipped == null ? null : skipped.toString());
        return row;
    }

    private static List<?> list(@Nullable Object value) {
        if (value instanceof List<?> list) {
            return list;
        }
        throw new IllegalArgumentException("a packed row lacks a list");
    }

    private static long number(@Nullable Object value) {
        return value instanceof Long number ? number : 0;
    }

    private static String text(@Nullable Object value) {
        return value == null ? "" : value.toString();
    }
}
