package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Result;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Respells;
import dev.nachlauf.core.system.Target;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * Plans a batch: finds what its rows meet in the targets and decides what each write makes of them, in the order of the
 * writes. Nothing is written by it, and a plan can be made again.
 */
final class BatchPlanner {
    private static final Problem NO_ID = Problem.of(
            ProblemCode.NOT_WRITTEN,
            "A later write needs the id of this new record, which the target gives only when it writes.",
            "Take another field of it, or make a job of its own of the later write.");

    private final Plan plan;
    private final Targets targets;
    private final StoredRecords stored;
    private final Mapper mapper;
    private final References references;
    private final NewIds ids;
    private final NearDuplicates near;

    /**
     * Plans batches for these targets.
     *
     * @param stored where the records are found that rows meet
     * @param ids where new records get their ids from, which later writes may use
     * @param near looks at what is new
     */
    BatchPlanner(
            Plan plan, Targets targets, StoredRecords stored, References references, NewIds ids, NearDuplicates near) {
        this.near = near;
        this.plan = plan;
        this.targets = targets;
        this.stored = stored;
        this.mapper = new Mapper(plan);
        this.references = references;
        this.ids = ids;
    }

    /** What is to become of a batch. */
    BatchInHand plan(Batch batch) {
        BatchInHand hand = new BatchInHand(batch, plan);
        planAnew(hand);
        near.look(hand, targets);
        return hand;
    }

    /** Plans once more, without the rows that were refused meanwhile and their groups. */
    void planAnew(BatchInHand hand) {
        do {
            refuseGroups(hand);
            hand.bonds().lead(hand::goesOn);
            for (int w = 0; w < plan.writes().size(); w++) {
                decide(w, hand);
                // before a later write misses what this one would have given
                refuseGroups(hand);
            }
        } while (hand.isLeaderless());
    }

    private void refuseGroups(BatchInHand hand) {
        if (!plan.isSimple()) {
            hand.refuseGroups();
        }
    }

    /** What has been written is asked for again. */
    void written() {
        plan.writes().forEach(references::written);
    }

    /** Decides one write for all rows that go on; what later writes may use of it goes into the rows' slots. */
    private void decide(int index, BatchInHand hand) {
        PlannedWrite write = plan.writes().get(index);
        Part part = part(index, write, hand);
        int[] going = going(part, hand);
        part.consider(going, hand.earlier(index));
        hand.put(index, part);
        decide(index, hand, going);
        if (!write.results().isEmpty() && hand.batch().keepsFlow()) {
            publish(index, write, part, hand);
        }
    }

    private static int[] going(Part part, BatchInHand hand) {
        return IntStream.of(part.all())
                .filter(place -> hand.goesOn(part.row(place)))
                .toArray();
    }

    /** Decides anew about some rows of a write. */
    void decide(int index, BatchInHand hand, int[] which) {
        Part part = hand.part(index);
        part.forgetAnswers(which);
        part.planner().begin(which);
        Target target = targets.of(index);
        stored.find(index, part.sent(), which, part.planner());
        Batch batch = hand.batch();
        part.planner()
                .finish(which, place -> batch.sourceRow(part.row(place)))
                .forEach((place, problem) -> hand.refuse(index, part.row(place), List.of(problem)));
        part.decided(which);
        int[] inserts = part.changes().rows(ChangeSet.Kind.INSERT, which);
        if (inserts.length > 0) {
            ids.give(target, part.changes(), inserts);
        }
    }

    private Part part(int index, PlannedWrite write, BatchInHand hand) {
        Batch batch = hand.batch();
        Batch.Taken taken = batch.taken(index);
        RowBlock values = taken.values();
        return values == null
                ? found(index, write, hand, taken)
                : part(index, write, batch, taken.rows(), values, all(values.rows()));
    }

    private static int[] all(int rows) {
        return IntStream.range(0, rows).toArray();
    }

    private Part part(int index, PlannedWrite write, Batch batch, int[] rows, RowBlock sent, int[] which) {
        Target target = targets.of(index);
        // as the target would spell them, so that only what differs is written
        RowBlock own = target instanceof Respells respells ? respells.respelled(sent, which) : sent;
        return new Part(write, batch.size(), rows, sent, new ChangeSet(target.cells(), own));
    }

    /** The rows of a write of which something had to be found first: an earlier write's result, or another record. */
    private Part found(int index, PlannedWrite write, BatchInHand hand, Batch.Taken taken) {
        Batch batch = hand.batch();
        List<WriteRow> open = new ArrayList<>();
        int[] rows = write.late() ? mappedLate(index, hand, open) : stillGoing(hand, taken, open);
        List<FlowRow> flow = IntStream.of(rows).mapToObj(batch::flow).toList();
        List<List<Problem>> problems = new ArrayList<>();
        open.forEach(row -> problems.add(new ArrayList<>()));
        List<WriteRow> resolved = references.resolve(write, flow, open, problems);
        Cells cells = targets.of(index).cells();
        RowBlock.Builder values = new RowBlock.Builder(write.fields().size(), rows.length);
        int[] whole = new int[rows.length];
        for (int i = 0; i < rows.length; i++) {
            if (problems.get(i).isEmpty()) {
                whole[values.rows()] = rows[i];
                BatchBuilder.add(values, cells, resolved.get(i));
            } else {
                hand.refuse(index, rows[i], problems.get(i));
            }
        }
        // what was refused in an earlier attempt stays known
        Part before = hand.earlier(index);
        int count = values.rows();
        for (int row : hand.refused()) {
            if (before != null && before.takes(row)) {
                whole = Arrays.copyOf(whole, Math.max(whole.length, count + 1));
                whole[count++] = row;
                before.copy(row, values);
            }
        }
        RowBlock block = values.build();
        return part(index, write, batch, Arrays.copyOf(whole, block.rows()), block, all(block.rows()));
    }

    private static int[] stillGoing(BatchInHand hand, Batch.Taken taken, List<WriteRow> open) {
        int[] rows = new int[taken.rows().length];
        for (int i = 0; i < rows.length; i++) {
            if (hand.goesOn(taken.rows()[i])) {
                rows[open.size()] = taken.rows()[i];
                open.add(taken.open().get(i));
            }
        }
        return Arrays.copyOf(rows, open.size());
    }

    private int[] mappedLate(int index, BatchInHand hand, List<WriteRow> open) {
        int[] rows = new int[hand.batch().size()];
        for (int row = 0; row < rows.length; row++) {
            if (hand.goesOn(row)) {
                List<Problem> problems = new ArrayList<>();
                WriteRow mapped = mapper.mapLate(hand.batch().flow(row), index, problems);
                if (!problems.isEmpty()) {
                    hand.refuse(index, row, problems);
                } else if (mapped != null) {
                    rows[open.size()] = row;
                    open.add(mapped);
                }
            }
        }
        return Arrays.copyOf(rows, open.size());
    }

    /** A write that stands for a group speaks to all rows of it. */
    private void publish(int index, PlannedWrite write, Part part, BatchInHand hand) {
        boolean idNeeded = plan.writes().stream()
                .skip(index + 1L)
                .flatMap(later -> later.fields().stream())
                .flatMap(output -> output.source().slots().stream())
                .anyMatch(slot ->
                        write.results().stream().anyMatch(result -> result.field() < 0 && result.slot() == slot));
        Batch batch = hand.batch();
        Map<Long, Integer> leaders = new HashMap<>();
        for (int place : part.all()) {
            // one that led the group in an earlier attempt and was refused doesn't speak for it
            if (write.oncePerGroup() && hand.goesOn(part.row(place))) {
                leaders.put(batch.group(part.row(place)), place);
            }
        }
        for (int row = 0; row < batch.size(); row++) {
            Integer place = write.oncePerGroup() ? leaders.get(batch.group(row)) : (Integer) part.place(row);
            if (place == null || place < 0) {
                continue;
            }
            int from = part.row(place);
            if (idNeeded && part.changes().idAt(place) < 0 && hand.goesOn(from)) {
                hand.refuse(index, from, List.of(NO_ID));
            }
            for (Result result : write.results()) {
                batch.flow(row).slots()[result.slot()] =
                        result.field() < 0 ? part.changes().id(place) : part.value(place, result.field());
            }
        }
    }
}
