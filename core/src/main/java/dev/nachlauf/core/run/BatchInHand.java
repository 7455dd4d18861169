package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What is known of a batch while it is under way: what each write makes of it, and which rows were refused by a write. */
final class BatchInHand {
    private final Batch batch;
    private final @Nullable Part[] parts;
    /** Kept over new attempts. */
    private final Map<Integer, List<Problem>> refused = new HashMap<>();

    BatchInHand(Batch batch, int writes) {
        this.batch = batch;
        this.parts = new Part[writes];
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
    void refuse(int row, List<Problem> reasons) {
        refused.put(row, List.copyOf(reasons));
    }

    boolean isRefused(int row) {
        return !refused.isEmpty() && refused.containsKey(row);
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
        return refused.getOrDefault(row, List.of());
    }

    /** What is to be said of a row beside its outcome. */
    List<Problem> warnings(int row) {
        List<Problem> own = batch.warnings(row);
        List<Problem> all = own;
        for (Part part : parts) {
            int place = part == null ? -1 : part.place(row);
            if (part != null && place >= 0 && !part.warnings(place).isEmpty()) {
                all = all == own ? new ArrayList<>(own) : all;
                all.addAll(part.warnings(place));
            }
        }
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
