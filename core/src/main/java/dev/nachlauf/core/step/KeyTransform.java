package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Plan.Output;
import dev.nachlauf.core.plan.Plan.PlannedStep;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.value.Values;
import java.io.ByteArrayOutputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Computes only the keys of rows: the filters, and the steps and columns that filters and keys need. */
public final class KeyTransform {
    private final RowTransform transform;

    public KeyTransform(Plan plan) {
        this.transform = new RowTransform(reduced(plan));
    }

    /** The key as bytes that are equal exactly for equal keys; null where the row is skipped or has no key. */
    public byte @Nullable [] key(SourceRow row) {
        TargetRow target = transform.apply(row);
        return bytes(target);
    }

    /** The key of a transformed row as bytes; null where it is skipped or has none. */
    public static byte @Nullable [] bytes(TargetRow row) {
        return row.skipped() != null || row.key() == null ? null : bytes(row.key());
    }

    static byte[] bytes(Object[] parts) {
        if (parts.length == 1) {
            return text(parts[0]).getBytes(StandardCharsets.UTF_8);
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (Object part : parts) {
            byte[] bytes = text(part).getBytes(StandardCharsets.UTF_8);
            for (int shift = 24; shift >= 0; shift -= 8) {
                out.write(bytes.length >>> shift);
            }
            out.writeBytes(bytes);
        }
        return out.toByteArray();
    }

    private static String text(Object part) {
        Object plain = part instanceof BigDecimal number ? number.stripTrailingZeros() : part;
        return String.valueOf(Values.text(plain));
    }

    private static Plan reduced(Plan plan) {
        List<Output> outputs = plan.key().stream().map(plan.fields()::get).toList();
        Set<Integer> needed = new HashSet<>();
        outputs.forEach(output -> needed.addAll(output.formula().slots()));
        List<PlannedStep> steps = new ArrayList<>();
        List<PlannedStep> backwards = new ArrayList<>(plan.steps());
        Collections.reverse(backwards);
        for (PlannedStep step : backwards) {
            boolean keep = step instanceof PlannedStep.Where
                    || step instanceof PlannedStep.Assign assign && needed.contains(assign.slot());
            if (keep) {
                steps.addFirst(step);
                needed.addAll(dev.nachlauf.core.plan.Planner.formula(step).slots());
            }
        }
        List<Plan.Input> inputs = plan.inputs().stream()
                .filter(input -> needed.contains(input.slot()))
                .toList();
        List<Integer> key = new ArrayList<>();
        for (int i = 0; i < outputs.size(); i++) {
            key.add(i);
        }
        return new Plan(
                plan.job(),
                plan.columns(),
                plan.slots(),
                plan.facts(),
                plan.needsFacts(),
                inputs,
                steps,
                outputs,
                key,
                plan.target(),
                plan.keyIsUnique());
    }
}
