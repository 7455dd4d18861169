package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.run.Line.Part;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** The ledger of a batch: one line per row and write, counts, and rejects. */
final class BatchLedger {
    private static final @Nullable Object[] NO_VALUES = {};

    private final Plan plan;
    private final StepTally steps;
    private final int main;
    private final int keyWidth;
    private final int fields;

    BatchLedger(Plan plan) {
        this.plan = plan;
        this.steps = new StepTally(plan);
        this.main = plan.writes().indexOf(plan.main());
        this.keyWidth = keyWidth(plan);
        this.fields = fields(plan);
    }

    /** The most parts that a key of the plan's writes has. */
    static int keyWidth(Plan plan) {
        return plan.writes().stream()
                .mapToInt(write -> write.key().size())
                .max()
                .orElse(0);
    }

    /** The most fields that a write has. */
    static int fields(Plan plan) {
        return plan.writes().stream()
                .mapToInt(write -> write.fields().size())
                .max()
                .orElse(0);
    }

    Chunk chunk(Batch batch, List<Line> lines, SortedMap<Integer, Token> tokens) {
        List<LedgerRow> rows = new ArrayList<>(lines.size());
        List<Reject> rejects = new ArrayList<>();
        Map<String, Long> fieldCounts = new TreeMap<>();
        Sums sums = new Sums(plan.writes().size());
        for (Line line : lines) {
            boolean rejected = !line.row.passed() && line.row.skipped() == null || !line.refused.isEmpty();
            add(line, rejected, sums, rows, fieldCounts);
            if (rejected) {
                rejects.add(reject(line));
                sums.rejected(line);
            }
        }
        List<TargetRow> targets = lines.stream().map(line -> line.row).toList();
        Tally tally = new Tally(
                steps.of(targets),
                writes(sums.writes),
                sums.elsewhere,
                sums.rejectedSources.sum(),
                sums.refusedSources(lines));
        Counts counts = sums.reading().plus(sums.writes[main]);
        Chunk.Head head = new Chunk.Head(
                batch.number(), batch.firstRow(), batch.lastRow(), counts, tally, fieldCounts, tokens, state(tokens));
        return Chunk.of(head, rows, rejects, keyWidth, fields);
    }

    private static Chunk.State state(SortedMap<Integer, Token> tokens) {
        return tokens.isEmpty() ? Chunk.State.DONE : Chunk.State.PENDING;
    }

    private List<Counts> writes(Counts[] sums) {
        return sums.length > 1 ? List.of(sums) : List.of();
    }

    /** The lines of a chunk. */
    List<LedgerRow> rows(Chunk chunk) {
        return ChunkCodec.rows(chunk.rows(), keyWidth, fields);
    }

    /**
     * The chunk of a batch of which a write refused rows after another one had written them.
     *
     * @param rows its lines as they are now
     * @param more the rejects that it did not have
     */
    Chunk corrected(Chunk chunk, List<LedgerRow> rows, List<Reject> more, SortedMap<Integer, Token> tokens) {
        Chunk.Head before = chunk.head();
        Map<String, Long> fieldCounts = new TreeMap<>();
        Counts[] writes = new Counts[plan.writes().size()];
        Arrays.fill(writes, Counts.NONE);
        Set<Long> refusedByMain = new HashSet<>();
        for (LedgerRow row : rows) {
            if (row.passed()) {
                writes[row.write()] = writes[row.write()].plus(Counts.taken(row.outcome()));
            }
            if (row.outcome() == Outcome.UPDATED) {
                count(row.write(), row.changed(), fieldCounts);
            }
            if (row.outcome() == Outcome.REJECTED && row.write() == main) {
                refusedByMain.add(row.position());
            }
        }
        long elsewhere = more.stream()
                .filter(reject -> !refusedByMain.contains(reject.position()))
                .count();
        long sources = more.stream().map(Reject::number).distinct().count();
        Counts read = before.counts();
        Chunk.Head head = new Chunk.Head(
                before.batch(),
                before.firstRow(),
                before.lastRow(),
                Counts.reading(read.read(), read.skipped(), read.rejected(), read.warned())
                        .plus(writes[main]),
                new Tally(
                        before.tally().steps(),
                        writes(writes),
                        before.tally().elsewhere() + elsewhere,
                        before.tally().sources() + sources,
                        before.tally().refused() + sources),
                fieldCounts,
                tokens,
                state(tokens));
        List<Reject> rejects = new ArrayList<>(ChunkCodec.rejects(chunk.rejects()));
        rejects.addAll(more);
        return Chunk.of(head, rows, rejects, keyWidth, fields);
    }

    /** Running sums over the lines. */
    private static final class Sums {
        private final Counts[] writes;
        private long read;
        private long skipped;
        private long rejected;
        private long warned;
        private long elsewhere;
        private final SourceRows rejectedSources = new SourceRows(Long.MAX_VALUE);
        private final SourceRows rejectedBefore = new SourceRows(Long.MAX_VALUE);

        Sums(int writes) {
            this.writes = new Counts[writes];
            Arrays.fill(this.writes, Counts.NONE);
        }

        void rejected(Line line) {
            rejectedSources.add(line.row.row());
            if (line.row.rejected()) {
                rejectedBefore.add(line.row.row());
            }
        }

        /** Source rows of which nothing was rejected before the target was asked, and something then. */
        long refusedSources(List<Line> lines) {
            SourceRows refused = new SourceRows(Long.MAX_VALUE);
            lines.stream()
                    .filter(line -> !line.refused.isEmpty() && !rejectedBefore.has(line.row.row()))
                    .forEach(line -> refused.add(line.row.row()));
            return refused.sum();
        }

        Counts reading() {
            return Counts.reading(read, skipped, rejected, warned);
        }
    }

    private void add(Line line, boolean rejected, Sums sums, List<LedgerRow> rows, Map<String, Long> fieldCounts) {
        long stands = line.row.row().stands()[0];
        boolean reading = steps.isReading(line.row);
        sums.read += stands;
        sums.skipped += line.row.skipped() != null && reading ? stands : 0;
        sums.rejected += line.row.rejected() && reading ? stands : 0;
        sums.warned += !rejected && !line.warnings().isEmpty() ? 1 : 0;
        boolean any = false;
        boolean refusedByMain = false;
        for (int w = 0; w < line.parts.length; w++) {
            Part part = line.parts[w];
            if (part != null && line.row.passed()) {
                Outcome outcome = rejected ? Outcome.REJECTED : part.outcome;
                sums.writes[w] = sums.writes[w].plus(Counts.taken(outcome));
                refusedByMain |= rejected && w == main;
                any = true;
                rows.add(ledgerRow(line, w, part, outcome));
                if (outcome == Outcome.UPDATED) {
                    count(w, part.changed, fieldCounts);
                }
            }
        }
        if (!any) {
            rows.add(ledgerRow(line, main, null, rejected ? Outcome.REJECTED : Outcome.SKIPPED));
        }
        boolean refusedHere = rejected && (line.row.passed() || !reading);
        if (refusedHere && !any && line.row.passed()) {
            // refused before a write could take it, for instance because its map needs what another row lacks
            sums.writes[main] = sums.writes[main].plus(Counts.taken(Outcome.REJECTED));
        } else if (refusedHere && !refusedByMain) {
            sums.elsewhere++;
        }
    }

    private void count(int write, BitSet changed, Map<String, Long> fieldCounts) {
        PlannedWrite of = plan.writes().get(write);
        String prefix = write == main ? "" : of.name() + ".";
        List<String> names = of.fieldNames();
        changed.stream().forEach(field -> fieldCounts.merge(prefix + names.get(field), 1L, Long::sum));
    }

    /** The reject that a line is. */
    static Reject reject(Line line) {
        Object[] key = keyOf(line);
        return new Reject(
                line.row.row().source().number(),
                line.row.row().position(),
                Math.max(1, line.row.row().stands()[0]),
                line.row.row().source().origin(),
                key == null ? "" : LoadPlanner.shown(key),
                texts(line.row.row().source().cells()),
                line.problems());
    }

    private static Object @Nullable [] keyOf(Line line) {
        for (Part part : line.parts) {
            if (part != null && part.mapped.key() != null) {
                return part.mapped.key();
            }
        }
        return line.row.key();
    }

    /** The raw row as text. */
    static List<@Nullable String> texts(@Nullable Object[] cells) {
        List<@Nullable String> texts = new ArrayList<>(cells.length);
        for (Object cell : cells) {
            texts.add(Values.text(cell));
        }
        return texts;
    }

    private static String source(Origin origin) {
        return origin.sheet().isEmpty() ? origin.file() : origin.file() + ", " + origin.sheet();
    }

    private static LedgerRow ledgerRow(Line line, int write, @Nullable Part part, Outcome outcome) {
        List<Problem> said = outcome == Outcome.REJECTED ? line.problems() : line.warnings();
        String note = line.row.skipped() != null
                ? line.row.skipped()
                : outcome == Outcome.SKIPPED ? TargetRow.NOT_TAKEN : LedgerRow.codes(said);
        Object[] key = part == null ? line.row.key() : part.mapped.key();
        Part wrote = outcome == Outcome.REJECTED ? null : part;
        return new LedgerRow(
                line.row.row().source().number(),
                line.row.row().position(),
                line.row.row().group(),
                write,
                source(line.row.row().source().origin()),
                line.row.row().source().origin().line(),
                outcome,
                line.row.passed(),
                note,
                key == null ? null : List.of(key),
                wrote == null ? null : wrote.id,
                wrote == null ? new BitSet() : wrote.changed,
                wrote == null ? NO_VALUES : wrote.before,
                wrote == null ? NO_VALUES : wrote.after);
    }
}
