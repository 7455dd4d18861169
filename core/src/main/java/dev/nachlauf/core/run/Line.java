package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.system.Change;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What is known of a row while its batch is under way. */
final class Line {
    private static final @Nullable Object[] NO_VALUES = {};

    final TargetRow row;
    /** What each write makes of the row; null where it doesn't take it. */
    final @Nullable Part[] parts;
    /** Why the row is rejected by a write; kept over new attempts. */
    List<Problem> refused = List.of();

    /** What one write makes of a row. */
    static final class Part {
        final WriteRow mapped;
        Outcome outcome = Outcome.REJECTED;

        @Nullable
        Change change;

        @Nullable
        Object id;

        BitSet changed = new BitSet();

        @Nullable
        Object[] before = NO_VALUES;

        @Nullable
        Object[] after = NO_VALUES;

        List<Problem> warnings = List.of();

        Part(WriteRow mapped) {
            this.mapped = mapped;
        }

        boolean wrote() {
            return outcome == Outcome.INSERTED || outcome == Outcome.UPDATED || outcome == Outcome.DELETED;
        }
    }

    Line(TargetRow row, int writes) {
        this.row = row;
        this.parts = new Part[writes];
    }

    /** Whether a write may still take it. */
    boolean goesOn() {
        return row.passed() && refused.isEmpty();
    }

    /** Whether a write changed a record for it. */
    boolean wrote(int write) {
        Part part = parts[write];
        return part != null && refused.isEmpty() && part.wrote();
    }

    void refuse(List<Problem> reasons) {
        refused = List.copyOf(reasons);
    }

    /** All that is to be said of the row. */
    List<Problem> problems() {
        return row.problems().isEmpty() ? refused : row.problems();
    }

    List<Problem> warnings() {
        List<Problem> all = new ArrayList<>(row.row().warnings());
        for (Part part : parts) {
            if (part != null) {
                all.addAll(part.warnings);
            }
        }
        return all;
    }
}
