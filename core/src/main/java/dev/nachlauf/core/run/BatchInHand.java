package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Fate;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answers;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** What is known of a batch while it is under way: what each write makes of it, and which rows were refused by a write. */
final class BatchInHand {
    private static final Fate WRITTEN = new Fate.Written();
    private static final Fate UNTAKEN = new Fate.Untaken();
    static final Problem UNKNOWN = Problem.of(
            ProblemCode.OUTCOME_UNKNOWN,
            "The target did not say whether the row was written.",
            "Look the record up before you send the row again.");
    private static final Problem CHANGED_MEANWHILE = Problem.of(
            ProblemCode.CHANGED_MEANWHILE,
            "Somebody else kept changing the record while this row was written.",
            "Send the row again when they are done.");

    private final Batch batch;
    private final RowBonds bonds;
    private final @Nullable Part[] parts;
    /** Kept over new attempts. */
    private final Map<Integer, Refusal> refused = new HashMap<>();

    /** What is said of rows beside what the writes say of them. */
    private final Map<Integer, List<Problem>> said = new HashMap<>();

    /** Why a row is refused, by which write, and whether its target said so when the row was sent. */
    private record Refusal(int write, List<Problem> reasons, boolean byTarget) {}

    /** Nothing is known of it yet. */
    BatchInHand(Batch batch, Plan plan) {
        this.batch = batch;
        this.bonds = new RowBonds(batch, plan);
        this.parts = new Part[plan.writes().size()];
    }

    Batch batch() {
        return batch;
    }

    int writes() {
        return parts.length;
    }

    /** What a write makes of the batch. */
    Part part(int write) {
        return Objects.requireNonNull(parts[write], "the write is decided");
    }

    /** What a write made of it in an earlier attempt; null in the first. */
    @Nullable
    Part earlier(int write) {
        return parts[write];
    }

    void put(int write, Part part) {
        parts[write] = part;
    }

    /** Whether a write may still take a row. */
    boolean goesOn(int row) {
        return batch.passed(row) && (refused.isEmpty() || !refused.containsKey(row));
    }

    /** A write rejects a row. */
    void refuse(int write, int row, List<Problem> reasons) {
        refused.put(row, new Refusal(write, List.copyOf(reasons), false));
    }

    /** Where the way of a row has ended. */
    Fate fate(int row) {
        Batch.Settled settled = batch.settled(row);
        if (settled != null) {
            return settled.fate();
        }
        Refusal refusal = refused.isEmpty() ? null : refused.get(row);
        if (refusal != null) {
            return new Fate.Write(refusal.write);
        }
        return whyUntaken(row) == null ? WRITTEN : UNTAKEN;
    }

    /** Why no write took a row that came to them; null where one did, or the row came to none. */
    @Nullable
    String whyUntaken(int row) {
        String why = null;
        for (Part part : parts) {
            if (part != null && part.takes(row)) {
                return null;
            }
            why = why == null && part != null ? part.whySkipped(row) : why;
        }
        return why;
    }

    private Refusal refusal(int row) {
        return Objects.requireNonNull(refused.get(row), "the row is refused");
    }

    /** Says one thing more of a row that is refused. */
    void alsoSay(int row, Problem problem) {
        Refusal refusal = refusal(row);
        List<Problem> problems = new ArrayList<>(refusal.reasons);
        problems.add(problem);
        refused.put(row, new Refusal(refusal.write, problems, refusal.byTarget));
    }

    /** How its rows are bound to each other. */
    RowBonds bonds() {
        return bonds;
    }

    /** Whether a row was refused that stands for others which go on, so that another one has to. */
    boolean isLeaderless() {
        return bonds.isLeaderless(refused(), this::goesOn);
    }

    /** A row that is rejected takes its group with it; where lines fail alone, only what stands for the group does. */
    void refuseGroups() {
        refuseGroups(row -> true);
    }

    /** A row that is rejected takes those rows of its group with it of which this is so. */
    void refuseGroups(IntPredicate which) {
        refuseGroups(row -> bonds.takesAlong(refusal(row).write), which);
    }

    /** A row that leads its group takes it along, for no other one can lead it any more. */
    void refuseLed() {
        refuseGroups(bonds::stands, row -> true);
    }

    private void refuseGroups(IntPredicate leading, IntPredicate which) {
        Map<Long, Integer> groups = new HashMap<>();
        refused().stream().filter(leading::test).forEach(row -> groups.putIfAbsent(batch.group(row), row));
        for (int row = 0; row < batch.size() && !groups.isEmpty(); row++) {
            Integer because = groups.get(batch.group(row));
            if (because != null && goesOn(row) && which.test(row)) {
                refuse(refusal(because).write, row, List.of(groupRejected(batch.sourceRow(because))));
            }
        }
    }

    private static Problem groupRejected(long because) {
        return Problem.of(
                ProblemCode.GROUP_REJECTED,
                "Row " + because + " belongs together with this one and is rejected.",
                "Correct that row; both are sent again together.");
    }

    /** Whether this write or a later one changes a record for a row. */
    boolean changes(int row, int from) {
        for (int write = from; write < parts.length; write++) {
            if (part(write).changes(row)) {
                return true;
            }
        }
        return false;
    }

    /** The places of a write that change a record and go on. */
    int[] changing(int write) {
        return changing(write, part(write).all());
    }

    /** Those of these places that change a record and go on. */
    int[] changing(int write, int[] some) {
        Part part = part(write);
        return IntStream.of(part.changes().changes(some))
                .filter(place -> goesOn(part.row(place)))
                .toArray();
    }

    /** Takes a target's answers in; the result is the places whose records somebody changed meanwhile. */
    int[] heard(int write, int[] asked) {
        Part part = part(write);
        Answers answers = part.answers();
        int[] moved = new int[asked.length];
        int count = 0;
        for (int place : asked) {
            switch (answers.kind(place)) {
                case DONE -> part.compareStored(place);
                case REFUSED -> refused.put(part.row(place), new Refusal(write, answers.problems(place), true));
                case MOVED -> moved[count++] = place;
                case UNKNOWN -> refuse(write, part.row(place), List.of(UNKNOWN));
                case NONE -> throw new IllegalStateException("a target left a change without an answer");
            }
        }
        return Arrays.copyOf(moved, count);
    }

    /** Refuses rows whose records somebody keeps changing. */
    void refuseMoved(int write, int[] moved) {
        for (int place : moved) {
            refuse(write, part(write).row(place), List.of(CHANGED_MEANWHILE));
        }
    }

    boolean isRefused(int row) {
        return !refused.isEmpty() && refused.containsKey(row);
    }

    /** Whether a target refused the row when it was sent, though no check stood against it. */
    boolean isRefusedByTarget(int row) {
        Refusal refusal = refused.get(row);
        return refusal != null && refusal.byTarget;
    }

    /** The rows that were refused so far. */
    List<Integer> refused() {
        return refused.keySet().stream().sorted().toList();
    }

    int countRefused() {
        return refused.size();
    }

    /** Whether a row is rejected, before it met a write or there. */
    boolean isRejected(int row) {
        Batch.Settled settled = batch.settled(row);
        return settled != null && settled.skipped() == null || isRefused(row);
    }

    /** Why a row is rejected. */
    List<Problem> problems(int row) {
        Batch.Settled settled = batch.settled(row);
        if (settled != null) {
            return settled.problems();
        }
        Refusal refusal = refused.get(row);
        return refusal == null ? List.of() : refusal.reasons;
    }

    /** Says something of a row that stands against nothing. */
    void warn(int row, Problem problem) {
        said.computeIfAbsent(row, any -> new ArrayList<>(batch.warnings(row))).add(problem);
    }

    /** Whether anything is to be said of a row beside its outcome. */
    boolean isWarned(int row) {
        for (int write = 0; write < parts.length; write++) {
            if (!warnings(row, write).isEmpty()) {
                return true;
            }
        }
        return false;
    }

    /** What is to be said of a row beside what a write makes of it: of itself, and of the record that this write has changed. */
    List<Problem> warnings(int row, int write) {
        List<Problem> own = said.isEmpty() ? batch.warnings(row) : said.getOrDefault(row, batch.warnings(row));
        Part part = parts[write];
        int place = part == null ? -1 : part.place(row);
        if (part == null || place < 0 || part.warnings(place).isEmpty()) {
            return own;
        }
        List<Problem> all = new ArrayList<>(own);
        all.addAll(part.warnings(place));
        return all;
    }

    /** The first key that a row has, for people; null where it has none. */
    Object @Nullable [] key(int row) {
        for (Part part : parts) {
            if (part != null && part.takes(row)) {
                return part.key(part.place(row));
            }
        }
        Batch.Settled settled = batch.settled(row);
        return settled == null ? batch.openKey(row) : settled.key();
    }

    /** Whether a write changed a record for some row. */
    boolean wrote(int write) {
        Part part = part(write);
        for (int place : part.all()) {
            if (part.wrote(part.row(place)) && !isRefused(part.row(place))) {
                return true;
            }
        }
        return false;
    }
}
