package dev.nachlauf.core.run;

import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.RowFlow;
import java.io.UncheckedIOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Makes rejects of rows that were written to the ledger before they were refused: the raw rows are read once more. Batches
 * come in the order of their rows, so all of them together cost one pass over the source.
 */
final class LateRejects implements AutoCloseable {
    static final Problem CHANGED = Problem.of(
            ProblemCode.CHANGED_MEANWHILE,
            "Somebody changed the record after the run was interrupted.",
            "Send the row again.");
    static final Problem GROUP = Problem.of(
            ProblemCode.GROUP_REJECTED,
            "A row that belongs together with this one is rejected.",
            "Correct that row; both are sent again together.");

    private final Supplier<RowFlow> source;
    /** Stands behind the last row that was wanted; null where nothing was read yet, or all was. */
    private @Nullable RowFlow flow;

    /** Those of a run. */
    LateRejects(Plan plan, Survey.RowSupply source) {
        this(() -> source.open(plan));
    }

    private LateRejects(Supplier<RowFlow> source) {
        this.source = source;
    }

    /** Those of a run that reads no source: they hold no raw row. */
    static LateRejects withoutRows() {
        return new LateRejects(() -> {
            throw new CannotGoOn(Problem.of(ProblemCode.FILE_MISSING, "There is no source.", ""));
        });
    }

    /**
     * The rejects, in the order of the rows.
     *
     * @param rows the lines of a chunk
     * @param said why rows are rejected, by their position
     * @param byTarget those that a target refused when they were sent
     */
    List<Reject> of(List<LedgerRow> rows, Map<Long, List<Problem>> said, Set<Long> byTarget) {
        if (said.isEmpty()) {
            return List.of();
        }
        Map<Long, LedgerRow> lines = new HashMap<>();
        rows.forEach(row -> lines.putIfAbsent(row.position(), row));
        Map<Long, Reject> rejects = new HashMap<>();
        said.forEach((position, problems) -> {
            LedgerRow row = Objects.requireNonNull(lines.get(position));
            Origin origin = Origin.line(row.source(), row.line());
            rejects.put(
                    position,
                    new Reject(
                            row.number(),
                            position,
                            1,
                            origin,
                            shown(row),
                            List.of(),
                            problems,
                            byTarget.contains(position)));
        });
        try {
            addRows(rejects);
        } catch (CannotGoOn | UncheckedIOException e) {
            // without the raw rows the rejects still say all that happened
            close();
        }
        return rejects.keySet().stream().sorted().map(rejects::get).toList();
    }

    private void addRows(Map<Long, Reject> rejects) {
        Set<Long> wanted = new HashSet<>();
        rejects.forEach((position, reject) -> {
            // no row of the source stands behind a record that it no longer has
            if (reject.number() > 0) {
                wanted.add(position);
            }
        });
        if (wanted.isEmpty()) {
            return;
        }
        boolean goesOn = flow != null;
        read(wanted, rejects);
        if (goesOn && !wanted.isEmpty()) {
            // they lie before what was read last
            close();
            read(wanted, rejects);
        }
    }

    private void read(Set<Long> wanted, Map<Long, Reject> rejects) {
        RowFlow reading = flow == null ? source.get() : flow;
        flow = reading;
        while (!wanted.isEmpty()) {
            FlowRow row = reading.next();
            if (row == null) {
                close();
                return;
            }
            if (wanted.remove(row.position())) {
                rejects.computeIfPresent(row.position(), (at, reject) -> withRow(reject, row));
            }
        }
    }

    @Override
    public void close() {
        if (flow != null) {
            flow.close();
            flow = null;
        }
    }

    private static Reject withRow(Reject reject, FlowRow row) {
        return new Reject(
                reject.number(),
                reject.position(),
                Math.max(1, row.stands()[0]),
                row.source().origin(),
                reject.key(),
                BatchLedger.texts(row.source().cells()),
                reject.problems(),
                reject.byTarget());
    }

    private static String shown(LedgerRow row) {
        return row.key() == null
                ? ""
                : LoadPlanner.shown(row.key().stream().filter(Objects::nonNull).toArray());
    }
}
