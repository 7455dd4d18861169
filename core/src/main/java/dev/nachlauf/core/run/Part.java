package dev.nachlauf.core.run;

import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** What one write makes of a batch: the rows that it takes, what is decided about them, and what the target answered. */
final class Part {
    private static final int ABSENT = -1;

    private final PlannedWrite write;
    private final int[] rows;
    private final int[] places;
    private final RowBlock sent;
    private final ChangeSet changes;
    private final LoadPlanner planner;
    private final Answers answers;
    /** The rows of the batch that the write has come to: those refused by an earlier write it has not. */
    private final BitSet considered = new BitSet();

    private final Map<Integer, List<Problem>> warnings = new HashMap<>();
    /** Places that the write leaves to others after it has met their records. */
    private final BitSet skipped = new BitSet();

    /**
     * Nothing is decided yet.
     *
     * @param batch how many rows the batch has
     * @param rows which of them the write takes
     * @param sent their values, by which records are found
     * @param changes takes the decisions; its rows are the same as the target would spell them
     */
    Part(PlannedWrite write, int batch, int[] rows, RowBlock sent, ChangeSet changes) {
        this.write = write;
        this.rows = rows;
        this.sent = sent;
        this.changes = changes;
        this.planner = new LoadPlanner(write, changes);
        this.answers = new Answers(changes);
        this.places = new int[batch];
        Arrays.fill(places, ABSENT);
        for (int i = 0; i < rows.length; i++) {
            places[rows[i]] = i;
        }
    }

    /** The row of the batch that stands at this place of the part. */
    int row(int place) {
        return rows[place];
    }

    /** All places. */
    int[] all() {
        return IntStream.range(0, rows.length).toArray();
    }

    /** The place of a row of the batch; negative where the write doesn't take it. */
    int place(int row) {
        return places[row];
    }

    /** Whether the write has come to a row of the batch. */
    boolean takes(int row) {
        return considered.get(row);
    }

    /** To how many rows the write has come. */
    long countTaken() {
        return considered.cardinality();
    }

    /** The write comes to these places now; to others it came in an earlier attempt. */
    void consider(int[] some, @Nullable Part earlier) {
        if (earlier != null) {
            earlier.considered.stream().filter(row -> places[row] >= 0).forEach(considered::set);
        }
        for (int place : some) {
            considered.set(rows[place]);
        }
    }

    /** Takes in what is decided about some places: the write doesn't take those of which the record is not as it needs. */
    void decided(int[] some) {
        for (int place : some) {
            skipped.clear(place);
            considered.set(rows[place]);
        }
        for (int place : planner.skipped(some)) {
            skipped.set(place);
            considered.clear(rows[place]);
        }
    }

    /** Why the write left a row of the batch out; null where it did not. */
    @Nullable
    String whySkipped(int row) {
        return places[row] >= 0 && skipped.get(places[row]) ? planner.whySkipped() : null;
    }

    /** Gives the values of a row of the batch to another block. */
    void copy(int row, RowBlock.Builder to) {
        RowBlock values = changes.rows();
        for (int field = 0; field < values.width(); field++) {
            to.add(values.data(), values.at(places[row], field));
        }
    }

    /** What the write makes of a field, whether that is written or not. */
    @Nullable
    Object value(int place, int field) {
        return changes.rows().value(place, field, changes.cells().fields().get(field));
    }

    RowBlock sent() {
        return sent;
    }

    ChangeSet changes() {
        return changes;
    }

    LoadPlanner planner() {
        return planner;
    }

    Answers answers() {
        return answers;
    }

    /** What became of a row, or will have when the batch is committed. */
    Outcome outcome(int place) {
        boolean open = changes.kind(place).isChange() && answers.kind(place) != Answers.Kind.DONE;
        return open ? Outcome.REJECTED : intent(place);
    }

    /** What was to become of a row when it was decided about. */
    Outcome intent(int place) {
        return switch (changes.kind(place)) {
            case NONE -> Outcome.REJECTED;
            case LEAVE -> Outcome.UNCHANGED;
            case INSERT -> write.action() == Action.ISSUE ? Outcome.ISSUED : Outcome.INSERTED;
            case UPDATE -> Outcome.UPDATED;
            case DELETE -> Outcome.DELETED;
        };
    }

    /** Whether a record is to be changed for a row of the batch. */
    boolean changes(int row) {
        int place = places[row];
        return place >= 0 && changes.kind(place).isChange();
    }

    /** Whether a record was changed for a row of the batch. */
    boolean wrote(int row) {
        int place = places[row];
        return place >= 0 && changes.kind(place).isChange() && answers.kind(place) == Answers.Kind.DONE;
    }

    /** Notes where the target stored other values than were sent. */
    void compareStored(int place) {
        List<Integer> fields = StoredOtherwise.fields(changes, answers, place);
        if (!fields.isEmpty()) {
            warnings.put(
                    place,
                    fields.stream()
                            .map(field -> Problem.inField(
                                    ProblemCode.CHANGED_BY_TARGET,
                                    write.fieldNames().get(field),
                                    "The target stored another value than was sent.",
                                    ""))
                            .toList());
        }
    }

    /** What is to be said of a row beside its outcome. */
    List<Problem> warnings(int place) {
        return warnings.isEmpty() ? List.of() : warnings.getOrDefault(place, List.of());
    }

    /** Forgets what was answered of these rows. */
    void forgetAnswers(int[] some) {
        for (int place : some) {
            answers.forget(place);
            warnings.remove(place);
        }
    }

    /** The key of a row. */
    Object[] key(int place) {
        return changes.cells().key().stream().map(field -> value(place, field)).toArray();
    }
}
