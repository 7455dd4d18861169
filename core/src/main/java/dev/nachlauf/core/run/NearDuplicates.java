package dev.nachlauf.core.run;

import dev.nachlauf.core.job.Guards.Guard;
import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.FindsAlike;
import dev.nachlauf.core.system.StoredRecord;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * New records that equal a stored one in every mapped field but a part of the key: a key that is spelled otherwise makes
 * duplicates that no target refuses. Shared by the writers.
 */
final class NearDuplicates {
    /** So many new records of a batch are looked at where they are only told. */
    private static final int FEW = 200;
    /** With so many of them the search ends: it reads the whole table for each batch. */
    private static final int ENOUGH = FEW / 2;
    /** They are taken from so many batches at most. */
    private static final int LOOKS = 2;

    private static final int SHOWN = 3;
    /** With fewer filled fields beside the key, two records are alike by chance. */
    private static final int EVIDENCE = 2;

    private final Plan plan;
    private final Guard guard;
    private final List<String> examples = new ArrayList<>();
    private int looks;
    private long seen;
    /** Whether there were others that were not looked at. */
    private boolean partly;

    private long alike;

    NearDuplicates(Plan plan) {
        this.plan = plan;
        this.guard = plan.job().guards().nearDuplicates();
    }

    /** Looks at what is new in a batch. */
    void look(BatchInHand hand, Targets targets) {
        for (int w = 0; w < plan.writes().size() && guard != Guard.ALLOW; w++) {
            PlannedWrite write = plan.writes().get(w);
            if (write.action().inserts() && targets.of(w) instanceof FindsAlike finds) {
                look(write, hand.part(w), hand, finds);
            }
        }
    }

    private void look(PlannedWrite write, Part part, BatchInHand hand, FindsAlike finds) {
        int[] compared = compared(write);
        int[] inserts = IntStream.of(part.changes().rows(ChangeSet.Kind.INSERT, part.all()))
                .filter(place ->
                        hand.goesOn(part.row(place)) && filled(part.changes().rows(), place, compared))
                .toArray();
        int[] some = admitted(inserts);
        if (some.length == 0) {
            return;
        }
        BitSet told = new BitSet();
        for (int open : write.key()) {
            int[] fields = IntStream.concat(
                            IntStream.of(compared),
                            write.key().stream().mapToInt(Integer::intValue).filter(other -> other != open))
                    .toArray();
            int[] left = IntStream.of(some).filter(place -> !told.get(place)).toArray();
            finds.alike(part.changes(), left, fields, (place, record) -> {
                told.set(place);
                tell(write, open, part, place, hand, record);
            });
        }
    }

    /** Those that are looked at: all where they hold the run, else the first ones. */
    private synchronized int[] admitted(int[] inserts) {
        if (guard == Guard.HOLD) {
            seen += inserts.length;
            return inserts;
        }
        int most = looks == LOOKS || seen >= ENOUGH ? 0 : Math.min(inserts.length, FEW);
        looks += most > 0 ? 1 : 0;
        seen += most;
        partly |= most < inserts.length;
        return Arrays.copyOf(inserts, most);
    }

    /** What tells records apart beside the key; constants and facts of the run or the row do not. */
    private int[] compared(PlannedWrite write) {
        return IntStream.range(0, write.fields().size())
                .filter(field -> !write.key().contains(field)
                        && isCompared(write.fields().get(field)))
                .toArray();
    }

    private boolean isCompared(Output output) {
        List<Integer> slots = output.source().slots();
        return !(output.source() instanceof Source.Kept)
                && !slots.isEmpty()
                && slots.stream().noneMatch(slot -> slot >= plan.facts() && slot < plan.facts() + Plan.FACTS);
    }

    private static boolean filled(RowBlock rows, int place, int[] compared) {
        return IntStream.of(compared)
                        .filter(field -> !rows.isNull(place, field))
                        .count()
                >= EVIDENCE;
    }

    private void tell(PlannedWrite write, int open, Part part, int place, BatchInHand hand, StoredRecord record) {
        String field = write.fieldNames().get(open);
        String stored =
                LoadPlanner.shown(write.key().stream().map(record::value).toArray());
        hand.warn(
                part.row(place),
                Problem.inField(
                        ProblemCode.NEAR_DUPLICATE,
                        field,
                        LoadPlanner.shown(new Object[] {part.value(place, open)}),
                        "The new record equals " + stored + " in everything but " + field + ".",
                        ""));
        synchronized (this) {
            alike++;
            if (examples.size() < SHOWN) {
                examples.add("row " + hand.batch().sourceRow(part.row(place)) + " ("
                        + LoadPlanner.shown(part.key(place)) + ") is like " + stored);
            }
        }
    }

    /** What there is to be told; empty where nothing is alike. */
    synchronized Optional<Problem> told() {
        if (alike == 0) {
            return Optional.empty();
        }
        String of = (partly ? "the first " : "") + seen + " new";
        return Optional.of(Problem.of(
                guard == Guard.HOLD ? ProblemCode.GUARD_HELD : ProblemCode.NEAR_DUPLICATE,
                alike + " of " + of + (seen == 1 ? " record" : " records") + (alike == 1 ? " equals" : " equal")
                        + " a stored one in everything but a part of the key: " + String.join("; ", examples)
                        + (alike > examples.size() ? " …" : "."),
                guard == Guard.HOLD
                        ? "Where they are the same records, discard the run and correct the key in the source; else"
                                + " release it all the same (--beyond-limit)."
                        : "Where they are the same records, correct the key in the source; else this is no fault."));
    }

    /** Whether the run is held where something is alike. */
    boolean hold() {
        return guard == Guard.HOLD;
    }
}
