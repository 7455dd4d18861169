package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.IdFields;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Which ids the records have that a plan knew by numbers, once they are written. What refers to a record that was left out is
 * left out as well; what refers to one that was rejected is rejected.
 */
final class PlannedIds {
    private static final Problem PARENT_REJECTED = Problem.of(
            ProblemCode.REFERENCE_MISSING,
            "The new record that this one refers to is rejected.",
            "Correct that row; then send both again.");

    /** The fields of each write that may hold a number. */
    private final List<BitSet> fields;

    private final boolean asked;
    private final Map<Long, Object> ids = new HashMap<>();
    private final Set<Long> leftOut = new HashSet<>();

    PlannedIds(Plan plan) {
        List<List<String>> names = IdFields.of(plan).fields();
        fields = new ArrayList<>();
        for (int w = 0; w < names.size(); w++) {
            BitSet own = new BitSet();
            List<String> written = plan.writes().get(w).fieldNames();
            names.get(w).forEach(name -> own.set(written.indexOf(name)));
            fields.add(own);
        }
        // what goes is there already
        plan.replacing().forEach(write -> fields.add(new BitSet()));
        // a second write of the same type may meet what the first one planned
        asked = plan.writes().size() > 1 || fields.stream().anyMatch(own -> !own.isEmpty());
    }

    /** Whether any line could refer to a record that the same run makes. */
    boolean asked() {
        return asked;
    }

    private static boolean isNumber(@Nullable Object id) {
        return id instanceof Long number && number < 0;
    }

    /** A planned line was written, and this is what it became. */
    void learn(LedgerRow planned, LedgerRow written) {
        if (asked && planned.outcome() == Outcome.INSERTED && isNumber(planned.id()) && written.id() != null) {
            ids.put((Long) planned.id(), written.id());
        }
    }

    /** The row of a line is left out. */
    void leave(LedgerRow line) {
        if (asked && line.outcome() == Outcome.INSERTED && isNumber(line.id())) {
            leftOut.add((Long) line.id());
        }
    }

    /** Whether a line speaks of a record that is left out. */
    boolean refersToLeftOut(LedgerRow line) {
        if (leftOut.isEmpty() || !line.wrote()) {
            return false;
        }
        BitSet own = fields.get(line.write());
        return line.outcome() != Outcome.INSERTED && isNumber(line.id()) && leftOut.contains((Long) line.id())
                || own.stream()
                        .anyMatch(
                                field -> isNumber(line.after()[field]) && leftOut.contains((Long) line.after()[field]));
    }

    /** The line with the true ids in the place of numbers. */
    LineWriter.Ready resolved(LedgerRow line, List<Integer> key) {
        BitSet own = fields.get(line.write());
        boolean ofNew = line.outcome() != Outcome.INSERTED && isNumber(line.id());
        if (!ofNew && own.isEmpty() && !isNumber(line.id())) {
            return new LineWriter.Ready(line, Optional.empty());
        }
        boolean missing = ofNew && !ids.containsKey((Long) line.id());
        @Nullable Object[] after = line.after().clone();
        for (int field = own.nextSetBit(0); field >= 0 && after.length > 0; field = own.nextSetBit(field + 1)) {
            if (isNumber(after[field])) {
                missing |= !ids.containsKey((Long) after[field]);
                after[field] = ids.get((Long) after[field]);
            }
        }
        List<Object> parts = line.key() == null ? null : new ArrayList<>(line.key());
        for (int part = 0; parts != null && part < key.size(); part++) {
            if (own.get(key.get(part)) && isNumber(parts.get(part))) {
                missing |= !ids.containsKey((Long) parts.get(part));
                parts.set(part, ids.getOrDefault((Long) parts.get(part), parts.get(part)));
            }
        }
        Object id = isNumber(line.id()) ? ids.get((Long) line.id()) : line.id();
        LedgerRow.Values record = new LedgerRow.Values(parts, id, line.mark(), line.changed(), line.before(), after);
        return new LineWriter.Ready(
                line.with(line.outcome(), record), missing ? Optional.of(PARENT_REJECTED) : Optional.empty());
    }
}
