package dev.nachlauf.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowCodec;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ChunkCodecTest {
    private static final Cells HUTS =
            new Cells(List.of(CellCodec.TEXT, CellCodec.INT4), List.of(0), List.of(CellCodec.INT8), CellCodec.INT4);
    /** A key of two parts that doesn't stand first, and an id of two parts. */
    private static final Cells STAYS = new Cells(
            List.of(CellCodec.INT4, CellCodec.TEXT, CellCodec.DATE),
            List.of(2, 1),
            List.of(CellCodec.TEXT, CellCodec.INT2),
            CellCodec.ANY);

    private static LedgerRow line(int write, Outcome outcome, LedgerRow.Values values) {
        return new LedgerRow(
                4, 9, 8, write, "huts.csv", 5, outcome, Outcome.UPDATED, true, true, "key-repeated", values);
    }

    private static BitSet bits(int... set) {
        BitSet bits = new BitSet();
        for (int bit : set) {
            bits.set(bit);
        }
        return bits;
    }

    @Test
    void givesBackTheLinesOfTheLedger() {
        LedgerRow updated = line(
                0,
                Outcome.UPDATED,
                new LedgerRow.Values(
                        List.of("H-001"), 17L, 4711L, bits(1), new Object[] {null, 8L}, new Object[] {null, 12L}));
        LedgerRow inserted = line(
                1,
                Outcome.INSERTED,
                new LedgerRow.Values(
                        List.of(LocalDate.of(2026, 5, 1), "S-1"),
                        List.of("S-1", 3L),
                        null,
                        bits(0, 1, 2),
                        new Object[3],
                        new Object[] {7L, "S-1", LocalDate.of(2026, 5, 1)}));
        LedgerRow deleted = line(
                0,
                Outcome.DELETED,
                new LedgerRow.Values(
                        List.of("H-002"), 18L, 4712L, new BitSet(), new Object[] {"H-002", 8L}, new Object[2]));
        LedgerRow unchanged = line(
                0,
                Outcome.UNCHANGED,
                new LedgerRow.Values(List.of("H-003"), 19L, null, new BitSet(), new Object[2], new Object[2]));
        LedgerRow rejected = line(
                0,
                Outcome.REJECTED,
                new LedgerRow.Values(List.of("H-004"), null, null, new BitSet(), new Object[2], new Object[2]));
        LedgerRow skipped = new LedgerRow(
                5,
                9,
                8,
                1,
                "more.csv",
                6,
                Outcome.SKIPPED,
                Outcome.SKIPPED,
                false,
                false,
                "filtered",
                LedgerRow.Values.none(null));
        LedgerRow broken = new LedgerRow(
                6,
                6,
                6,
                0,
                "huts.csv",
                7,
                Outcome.REJECTED,
                Outcome.REJECTED,
                false,
                false,
                "value-malformed",
                LedgerRow.Values.none(List.of("H-005", 3L)));
        List<LedgerRow> lines = List.of(updated, inserted, deleted, unchanged, rejected, skipped, broken);
        LedgerBlock block = new LedgerBlock(List.of(HUTS, STAYS));
        lines.forEach(block::add);
        byte[] packed = block.pack();
        List<LedgerRow> back = ChunkCodec.rows(packed, 0, 0);
        for (int i = 0; i < lines.size(); i++) {
            assertThat(back.get(i)).as("line " + i).usingRecursiveComparison().isEqualTo(lines.get(i));
        }
        assertThat(LedgerLines.of(packed).cells()).containsExactly(HUTS, STAYS);
    }

    /** Lines that come from a set of changes are the same as those that come one by one. */
    @Test
    void writesASetOfChangesAsItsLinesWouldBeWritten() {
        Random random = new Random(23);
        List<Change> changes = new ArrayList<>();
        for (long i = 0; i < 200; i++) {
            Object[] before = {"H-" + i, random.nextInt(3) == 0 ? null : i};
            Object[] after = {"H-" + i, random.nextInt(3) == 0 ? null : -i};
            changes.add(
                    switch (random.nextInt(3)) {
                        case 0 -> new Change.Insert(random.nextBoolean() ? i : null, after);
                        case 1 -> new Change.Update(i, 7L, before, after, bits(1));
                        default -> new Change.Delete(i, 8L, before);
                    });
        }
        ChangeSet set = ChangeSet.of(HUTS, changes);
        Answers answers = new Answers(set);
        LedgerBlock fast = new LedgerBlock(List.of(HUTS));
        LedgerBlock plain = new LedgerBlock(List.of(HUTS));
        for (int row = 0; row < changes.size(); row++) {
            Change change = changes.get(row);
            boolean given = change instanceof Change.Insert insert && insert.id() == null;
            answers.done(row);
            if (given) {
                answers.done(row, 1_000L + row);
            }
            LedgerRow line = line(row, change, given);
            plain.add(line);
            fast.add(
                    new LedgerBlock.Line(
                            line.number(),
                            line.position(),
                            line.group(),
                            line.source(),
                            line.line(),
                            line.outcome(),
                            line.intent(),
                            true,
                            line.note()),
                    0,
                    set,
                    answers,
                    row);
        }
        assertThat(fast.pack()).isEqualTo(plain.pack());
    }

    private static LedgerRow line(int row, Change change, boolean given) {
        LedgerRow.Values values = switch (change) {
            case Change.Insert insert ->
                new LedgerRow.Values(
                        List.of(insert.after()[0]),
                        given ? (Object) (1_000L + row) : insert.id(),
                        null,
                        bits(0, 1),
                        new Object[2],
                        insert.after());
            case Change.Update update ->
                new LedgerRow.Values(
                        List.of(update.after()[0]),
                        update.id(),
                        update.mark(),
                        update.changed(),
                        update.before(),
                        update.after());
            case Change.Delete delete ->
                new LedgerRow.Values(
                        List.of(delete.before()[0]),
                        delete.id(),
                        delete.mark(),
                        new BitSet(),
                        delete.before(),
                        new Object[2]);
        };
        Outcome outcome = switch (change) {
            case Change.Insert ignored -> Outcome.INSERTED;
            case Change.Update ignored -> Outcome.UPDATED;
            case Change.Delete ignored -> Outcome.DELETED;
        };
        return new LedgerRow(row, row, row / 2, 0, "huts.csv", row + 1, outcome, outcome, true, true, "", values);
    }

    /** Ledgers of earlier versions stay readable. */
    @Test
    void readsTheFirstFormat() {
        Object[] line = {
            4L, 5L, 1L, true, null, "huts.csv", 0L, null, null, "H-001", 17L, List.of(1L), null, 8L, null, 12L
        };
        LedgerRow row = ChunkCodec.rows(RowCodec.encode(List.<Object[]>of(line), line.length), 1, 2)
                .getFirst();
        assertThat(row.outcome()).isEqualTo(Outcome.UPDATED);
        assertThat(row.position()).isEqualTo(4);
        assertThat(row.key()).containsExactly("H-001");
        assertThat(row.id()).isEqualTo(17L);
        assertThat(row.changed()).isEqualTo(bits(1));
        assertThat(row.before()).containsExactly(null, 8L);
        assertThat(row.after()).containsExactly(null, 12L);
    }

    @Test
    void refusesADamagedBlock() {
        LedgerBlock block = new LedgerBlock(List.of(HUTS));
        block.add(line(
                0,
                Outcome.UNCHANGED,
                new LedgerRow.Values(List.of("H-003"), 19L, null, new BitSet(), new Object[2], new Object[2])));
        byte[] packed = block.pack();
        packed[2] ^= 0x40;
        assertThatThrownBy(() -> ChunkCodec.rows(packed, 1, 2)).hasMessageContaining("damaged");
    }

    @Test
    void givesBackRejectsWithAllTheirProblems() {
        Reject reject = new Reject(
                3,
                7,
                12,
                new Origin("huts.xlsx", "North", 4, ""),
                "H-003",
                Arrays.asList("h-003", null, "many"),
                List.of(
                        Problem.inField(ProblemCode.VALUE_MALFORMED, "beds", "many", "'many' is not an integer.", "")
                                .withCell("huts.xlsx, North!C4"),
                        Problem.of(ProblemCode.RULE_FAILED, "A rule.", "The rule is: …")),
                true);
        assertThat(ChunkCodec.rejects(ChunkCodec.packRejects(List.of(reject)))).containsExactly(reject);
    }
}
