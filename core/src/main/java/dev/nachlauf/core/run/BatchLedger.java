package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Fate;
import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.SortedMap;
import org.jspecify.annotations.Nullable;

/** The ledger of a batch: one line per row and write, counts, and rejects. */
final class BatchLedger {
    private final LedgerWrites writes;
    private final List<Cells> cells;
    private final int main;

    /** @param cells how each write's target spells its records */
    BatchLedger(LedgerWrites writes, List<Cells> cells) {
        this.writes = writes;
        this.cells = cells;
        this.main = writes.main();
    }

    /** What became of a batch, or will have when its connections commit. */
    Chunk chunk(BatchInHand hand, SortedMap<Integer, Token> tokens) {
        return chunk(hand, tokens, Part::outcome);
    }

    /** What is meant to become of a batch of which not everything is answered yet. */
    Chunk intent(BatchInHand hand, SortedMap<Integer, Token> tokens) {
        return chunk(hand, tokens, Part::intent);
    }

    /** What a write makes of the row at a place. */
    private interface Outcomes {
        Outcome of(Part part, int place);
    }

    private Chunk chunk(BatchInHand hand, SortedMap<Integer, Token> tokens, Outcomes outcomes) {
        Batch batch = hand.batch();
        LedgerBlock lines = new LedgerBlock(cells);
        List<Reject> rejects = new ArrayList<>();
        BatchSums sums = new BatchSums(writes);
        for (int row = 0; row < batch.size(); row++) {
            Fate fate = hand.fate(row);
            sums.came(hand, row, fate);
            switch (fate) {
                case Fate.Read ignored -> settled(hand, row, lines);
                case Fate.Step ignored -> settled(hand, row, lines);
                case Fate.Mapped ignored -> settled(hand, row, lines);
                case Fate.Untaken ignored -> passed(hand, row, false, outcomes, sums, lines);
                case Fate.Write ignored -> passed(hand, row, true, outcomes, sums, lines);
                case Fate.Written ignored -> passed(hand, row, false, outcomes, sums, lines);
            }
            if (hand.isRejected(row)) {
                rejects.add(reject(hand, row));
            }
        }
        sums.requireBalance(hand, taken(hand, sums));
        Tally tally = new Tally(
                sums.steps(batch),
                sums.writes(),
                sums.removals(),
                sums.rejectedElsewhere(),
                sums.rejectedSources(),
                sums.refusedSources(hand));
        Chunk.Head head = new Chunk.Head(
                batch.number(), batch.range(), sums.counts(), tally, sums.fieldCounts(), tokens, state(tokens));
        return new Chunk(head, lines.pack(), ChunkCodec.packRejects(rejects));
    }

    /** How many rows each write took; the main one also stands for those that were refused before any could. */
    private List<Long> taken(BatchInHand hand, BatchSums sums) {
        List<Long> taken = new ArrayList<>();
        for (int w = 0; w < hand.writes(); w++) {
            taken.add(hand.part(w).countTaken() + (w == main ? sums.refusedUntaken() : 0));
        }
        return taken;
    }

    static Chunk.State state(SortedMap<Integer, Token> tokens) {
        return tokens.isEmpty() ? Chunk.State.DONE : Chunk.State.PENDING;
    }

    /** The line of a row that came to no write. */
    private void settled(BatchInHand hand, int row, LedgerBlock lines) {
        Outcome outcome = hand.isRejected(row) ? Outcome.REJECTED : Outcome.SKIPPED;
        lines.add(line(hand, row, main, outcome, outcome), main, hand.key(row));
    }

    /** The lines of a row that came to the writes. */
    private void passed(
            BatchInHand hand, int row, boolean refused, Outcomes outcomes, BatchSums sums, LedgerBlock lines) {
        boolean taken = false;
        boolean refusedByMain = false;
        for (int w = 0; w < hand.writes(); w++) {
            Part part = hand.part(w);
            if (part.takes(row)) {
                int place = part.place(row);
                // what was sent for a row before a later write refused it stands, where it can't be taken back
                Outcome outcome = refused && !part.wrote(row) ? Outcome.REJECTED : outcomes.of(part, place);
                sums.outcome(w, outcome);
                if (outcome == Outcome.UPDATED) {
                    sums.changed(w, part.changes().changed(place));
                }
                lines.add(line(hand, row, w, outcome, part.intent(place)), w, part.changes(), part.answers(), place);
                refusedByMain |= outcome == Outcome.REJECTED && w == main;
                taken = true;
            }
        }
        if (!taken) {
            Outcome outcome = refused ? Outcome.REJECTED : Outcome.SKIPPED;
            lines.add(line(hand, row, main, outcome, outcome), main, hand.key(row));
        }
        if (refused) {
            sums.refused(refusedByMain, taken);
        }
    }

    private static LedgerBlock.Line line(BatchInHand hand, int row, int write, Outcome outcome, Outcome intent) {
        Batch batch = hand.batch();
        Batch.@Nullable Settled settled = batch.settled(row);
        Origin place = batch.place(row);
        return new LedgerBlock.Line(
                batch.sourceRow(row),
                batch.position(row),
                hand.bonds().leader(row),
                source(place),
                batch.line(row),
                outcome,
                intent,
                settled == null,
                note(hand, row, write, outcome, settled));
    }

    private static String note(BatchInHand hand, int row, int write, Outcome outcome, Batch.@Nullable Settled settled) {
        if (settled != null && settled.skipped() != null) {
            return settled.skipped();
        }
        if (outcome == Outcome.SKIPPED) {
            return Objects.requireNonNullElse(hand.whyUntaken(row), TargetRow.NOT_TAKEN);
        }
        List<Problem> said = outcome == Outcome.REJECTED ? hand.problems(row) : hand.warnings(row, write);
        return said.isEmpty() ? "" : LedgerRow.codes(said);
    }

    private static String source(Origin origin) {
        return origin.sheet().isEmpty() ? origin.file() : origin.file() + ", " + origin.sheet();
    }

    /** The reject that a row of the batch is. */
    private static Reject reject(BatchInHand hand, int row) {
        return reject(hand.batch(), row, hand.key(row), hand.problems(row), hand.isRefusedByTarget(row));
    }

    private static Reject reject(
            Batch batch, int row, Object @Nullable [] key, List<Problem> problems, boolean byTarget) {
        return new Reject(
                batch.sourceRow(row),
                batch.position(row),
                Math.max(1, batch.stands(row)),
                batch.origin(row),
                key == null ? "" : LoadPlanner.shown(key),
                batch.cells(row),
                problems,
                byTarget);
    }

    /** The rejects that are known of a batch before a target is asked. */
    static List<Reject> foreseen(Batch batch, long most) {
        List<Reject> rejects = new ArrayList<>();
        for (int row = 0; row < batch.size() && rejects.size() < most; row++) {
            Batch.@Nullable Settled settled = batch.settled(row);
            if (settled != null && settled.skipped() == null) {
                rejects.add(reject(batch, row, settled.key(), settled.problems(), false));
            }
        }
        return rejects;
    }

    /** The raw row as text. */
    static List<@Nullable String> texts(@Nullable Object[] read) {
        List<@Nullable String> texts = new ArrayList<>(read.length);
        for (Object cell : read) {
            texts.add(Values.text(cell));
        }
        return texts;
    }
}
