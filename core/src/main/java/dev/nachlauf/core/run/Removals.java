package dev.nachlauf.core.run;

import dev.nachlauf.core.formula.Requirement.Among;
import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.Removal;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * Plans what becomes of records that the source no longer has. While batches are planned it notes which records their rows
 * meet, whatever becomes of the rows: those stay. Where the key of a row can't be computed, nobody can tell which record
 * it means, so a person has to look before anything goes.
 */
final class Removals implements AutoCloseable {
    private final Attempt attempt;
    private final Plan plan;
    private final Targets targets;
    private final int batchRows;
    private final ForbiddenRemovals forbidden;
    private final RemovalChunks chunks;
    private final RowKeys keys;
    private final boolean together;
    private final List<Candidates> candidates = new ArrayList<>();
    private long unsure;
    private long firstUnsure;

    Removals(
            Attempt attempt,
            Plan plan,
            Targets targets,
            RecordFinder finder,
            Path scratch,
            int batchRows,
            Objections objections) {
        this.attempt = attempt;
        this.plan = plan;
        this.targets = targets;
        this.batchRows = batchRows;
        this.forbidden = new ForbiddenRemovals(plan, targets);
        this.chunks = new RemovalChunks(attempt.writes(), targets, objections);
        this.keys = new RowKeys(finder);
        this.together = plan.grouping() == Grouping.TOGETHER;
        for (PlannedWrite write : plan.replacing()) {
            Removal removal = write.removal().orElseThrow();
            int place = plan.writes().indexOf(write);
            Optional<Among> common = removal.common(field -> targets.mayFindBy(place, field));
            Target listing = targets.beside(place, removal.listing(common));
            candidates.add(new Candidates(write, removal, common, listing, scratch));
        }
    }

    /** Why a plan that replaces is not carried out with so many rows; empty where nothing stands against it. */
    static Optional<Problem> refused(Plan plan, long rows) {
        boolean allowed = plan.replacing().stream()
                .flatMap(write -> write.removal().stream())
                .allMatch(Removal::mayBeEmpty);
        return rows > 0 || allowed
                ? Optional.empty()
                : Optional.of(Problem.of(
                        ProblemCode.SOURCE_EMPTY,
                        "The source has no rows, so all records would go.",
                        "Look whether it is complete; where that is meant, say empty-source: allow."));
    }

    /** The rows of a batch meet their records; those are rejected whose records can't go. */
    void meet(BatchInHand hand) {
        forbidden.refuse(hand);
        for (int i = 0; i < candidates.size(); i++) {
            int write = plan.writes().indexOf(plan.replacing().get(i));
            Part part = hand.part(write);
            Candidates of = candidates.get(i);
            found(write, part, hand, of);
            notTaken(write, part, hand, of);
            of.with(
                    part.changes(),
                    IntStream.of(part.all())
                            .filter(place -> hand.goesOn(part.row(place)) && part.takes(part.row(place)))
                            .toArray());
        }
    }

    /** Records that are new since their rows met none; only a rehearsal has them before all is planned. */
    void meetNew(BatchInHand hand) {
        for (int i = 0; i < candidates.size(); i++) {
            int write = plan.writes().indexOf(plan.replacing().get(i));
            Part part = hand.part(write);
            int[] added = part.changes().rows(ChangeSet.Kind.INSERT, part.all());
            find(
                    write,
                    part.sent(),
                    added,
                    candidates.get(i),
                    place -> hand.batch().sourceRow(part.row(place)));
        }
    }

    /** Rows whose key is known: most of them have met their records already. */
    private void found(int write, Part part, BatchInHand hand, Candidates of) {
        ChangeSet changes = part.changes();
        int[] others = IntStream.of(part.all())
                .filter(place -> {
                    if (changes.idAt(place) >= 0 && changes.kind(place) != ChangeSet.Kind.INSERT) {
                        of.meet(changes.kept(), changes.idAt(place));
                        return false;
                    }
                    return changes.kind(place) != ChangeSet.Kind.INSERT;
                })
                .toArray();
        find(write, part.sent(), others, of, place -> hand.batch().sourceRow(part.row(place)));
    }

    private interface Numbers {
        long of(int place);
    }

    private void find(int write, RowBlock rows, int[] which, Candidates of, Numbers numbers) {
        BitSet met = new BitSet();
        targets.of(write).find(rows, which, (row, record) -> {
            of.meet(record.data(), record.idAt());
            if (met.get(row)) {
                // where there are two there may be more of the same key
                unsure(numbers.of(row));
            }
            met.set(row);
        });
    }

    private void unsure(long row) {
        firstUnsure = unsure++ == 0 ? row : Math.min(row, firstUnsure);
    }

    /** Rows that the write doesn't take, because they are skipped or rejected before. */
    private void notTaken(int write, Part part, BatchInHand hand, Candidates of) {
        PlannedWrite planned = plan.writes().get(write);
        Batch batch = hand.batch();
        Cells cells = targets.of(write).cells();
        RowBlock.Builder block = new RowBlock.Builder(planned.fields().size(), 16);
        int[] others = IntStream.range(0, batch.size())
                .filter(row ->
                        part.place(row) < 0 && (!planned.oncePerGroup() || batch.group(row) == batch.position(row)))
                .toArray();
        List<FlowRow> flow = IntStream.of(others).mapToObj(batch::flow).toList();
        List<RowKeys.Meant> meant = keys.of(planned, flow);
        List<Long> numbers = new ArrayList<>();
        for (int i = 0; i < others.length; i++) {
            switch (meant.get(i)) {
                case RowKeys.Meant.Key key -> {
                    add(block, planned, cells, key.parts());
                    numbers.add(batch.sourceRow(others[i]));
                }
                case RowKeys.Meant.NoRecord ignored -> {
                    // nothing to protect
                }
                case RowKeys.Meant.Unsure ignored -> {
                    if (!isOutside(planned, hand, others[i])) {
                        unsure(batch.sourceRow(others[i]));
                    }
                }
            }
        }
        RowBlock rows = block.build();
        find(write, rows, IntStream.range(0, rows.rows()).toArray(), of, numbers::get);
    }

    /** A rejected row takes its group along, so nothing is removed within what the group stands for. */
    private boolean isOutside(PlannedWrite write, BatchInHand hand, int row) {
        return together
                && hand.isRejected(row)
                && !write.removal().orElseThrow().within().isEmpty();
    }

    private static void add(RowBlock.Builder block, PlannedWrite write, Cells cells, Object[] key) {
        for (int field = 0; field < write.fields().size(); field++) {
            int part = write.key().indexOf(field);
            block.add(part < 0 ? null : key[part], cells.fields().get(field));
        }
    }

    /** Plans that those go which no row has met, and keeps that in the ledger, behind the batches of the rows. */
    void plan(LimitGuard guard, Pulse pulse) {
        if (candidates.isEmpty()) {
            return;
        }
        doubt().ifPresent(guard::hold);
        int batch = attempt.records().chunks().stream()
                .mapToInt(Chunk.Head::batch)
                .max()
                .orElse(0);
        for (int i = 0; i < candidates.size(); i++) {
            int write = plan.writes().size() + i;
            Removal removal = plan.replacing().get(i).removal().orElseThrow();
            Iterator<byte[]> gone = candidates.get(i).gone();
            while (gone.hasNext()) {
                List<byte[]> some = new ArrayList<>();
                while (gone.hasNext() && some.size() < batchRows) {
                    pulse.run();
                    some.add(gone.next());
                }
                Chunk chunk = chunks.chunk(++batch, write, removal, some);
                guard.admit(chunk.head());
                attempt.records().save(chunk, List.of());
                attempt.observer().written(guard.counts());
            }
        }
    }

    /** Why a person has to look before anything goes; empty where nothing stands against it. */
    private Optional<Problem> doubt() {
        return unsure == 0
                ? Optional.empty()
                : Optional.of(
                        Problem.of(
                                ProblemCode.REMOVAL_UNSURE,
                                (unsure == 1
                                                ? "It can't be told which record row " + firstUnsure + " means"
                                                : "It can't be told which records " + unsure
                                                        + " rows mean, the first of them row " + firstUnsure)
                                        + ", so one that they mean may be among those that go.",
                                "Look at what is planned to go, then release the run, or correct the rows and start the job again."));
    }

    @Override
    public void close() {
        candidates.forEach(Candidates::close);
    }
}
