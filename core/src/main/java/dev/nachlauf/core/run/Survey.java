package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.LoadKeys;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.ReadAhead;
import dev.nachlauf.core.step.RowFlow;
import dev.nachlauf.core.step.Shaping;
import dev.nachlauf.core.step.Shaping.KeptRows;
import dev.nachlauf.core.system.ComparesKeys;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.LongConsumer;

/**
 * The first look at all rows, before anything is written: it counts them, finds keys that are repeated anywhere in the
 * load, and, where the job limits rejects, counts the source rows of which something will be rejected for sure.
 *
 * @param rows rows in the source, as far as it could be read
 * @param foreseen source rows with rejects that are known before the target is asked; 0 where the job sets no limit
 * @param repeats keys that stand twice
 * @param failures why the source could not be read to its end
 * @param warnings what is to be said of the load as a whole
 */
record Survey(long rows, long foreseen, Repeats repeats, List<Problem> failures, List<Problem> warnings)
        implements AutoCloseable {
    private static final int REPORT_EVERY = 10_000;
    /** The keys of all writes may take so much memory; beyond it they are sorted on disk. */
    private static final long KEYS = Runtime.getRuntime().maxMemory() / 8;

    /**
     * Looks.
     *
     * @param targets say which keys are equal to them
     * @param most beyond so many source rows with rejects counting them ends
     */
    static Survey of(
            Plan plan, RowSupply supply, Targets targets, Path scratch, long most, LongConsumer progress, Pulse pulse) {
        Repeats repeats = new Repeats(plan.writes().size(), scratch);
        long[] read = new long[1];
        List<Problem> warnings = List.of();
        List<Problem> failures = List.of();
        try {
            warnings = findKeys(plan, supply, targets, repeats, read, progress, pulse);
        } catch (CannotGoOn e) {
            if (e.isTemporary()) {
                repeats.close();
                throw e;
            }
            failures = e.problems();
        }
        repeats.find(pulse);
        boolean limited = plan.job().limits().rejected().isPresent() && failures.isEmpty();
        long foreseen = limited ? foreseen(plan, supply, repeats, most, pulse) : 0;
        return new Survey(read[0], foreseen, repeats, failures, warnings);
    }

    private static List<Problem> findKeys(
            Plan plan,
            RowSupply supply,
            Targets targets,
            Repeats repeats,
            long[] read,
            LongConsumer progress,
            Pulse pulse) {
        Plan surveyed = plan.isShaped() ? plan : LoadKeys.reduced(plan);
        List<KeyNote> notes = notes(surveyed, targets, repeats);
        List<Problem> warnings;
        try (RowFlow flow = supply.openReduced(surveyed)) {
            if (notes.isEmpty() && flow instanceof KeptRows kept) {
                kept.passOver(pulse);
            }
            long next = REPORT_EVERY;
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                pulse.run();
                read[0] = flow.read();
                repeats.read(row.source());
                for (KeyNote note : notes) {
                    note.row(row);
                }
                if (read[0] >= next) {
                    progress.accept(read[0]);
                    next = read[0] + REPORT_EVERY;
                }
            }
            read[0] = flow.read();
            warnings = flow instanceof KeptRows kept ? kept.warnings() : List.of();
        }
        notes.forEach(KeyNote::end);
        if (notes.stream().anyMatch(KeyNote::wantsAnotherLook)) {
            compare(surveyed, supply, notes, pulse);
        }
        return warnings;
    }

    private static List<KeyNote> notes(Plan surveyed, Targets targets, Repeats repeats) {
        LoadKeys keys = new LoadKeys(surveyed);
        int writes = surveyed.writes().size();
        List<KeyNote> notes = new ArrayList<>();
        for (int w = 0; w < writes; w++) {
            boolean own =
                    keys.isPlain(w) && targets.of(w) instanceof ComparesKeys compares && compares.hasOwnEquality();
            if (!own && keys.isDistinct(w)) {
                continue;
            }
            notes.add(
                    own
                            ? new KeyNote.Own(keys, w, new OwnKeys((ComparesKeys) targets.of(w), repeats.of(w)))
                            : new KeyNote.Hashed(keys, w, repeats.of(w), KEYS / writes));
        }
        return notes;
    }

    /** Keys that may stand twice are few: only they are sorted and compared. */
    private static void compare(Plan surveyed, RowSupply supply, List<KeyNote> notes, Pulse pulse) {
        try (RowFlow flow = supply.openReduced(surveyed)) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                pulse.run();
                for (KeyNote note : notes) {
                    note.rowAgain(row);
                }
            }
        }
    }

    /** Every row is mapped as it will be when it is written, and each row of the source counts once. */
    private static long foreseen(Plan plan, RowSupply supply, Repeats repeats, long most, Pulse pulse) {
        SourceRows rejected = new SourceRows(most);
        Mapper mapper = new Mapper(plan);
        try (RowFlow flow = supply.open(plan)) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                pulse.run();
                if (repeats.checked(mapper.map(row)).rejected()) {
                    rejected.add(row);
                }
            }
        }
        repeats.rewind();
        return rejected.sum();
    }

    /** Where the rows behind the steps come from, for each pass over them. */
    interface RowSupply {
        /** The rows; where they are not kept, the steps of this plan are run. */
        RowFlow open(Plan plan);

        /** The rows for a look that needs nothing of the source but what this plan reads. */
        default RowFlow openReduced(Plan plan) {
            return open(plan);
        }
    }

    /** The rows of a run, straight from its source or as the steps have made them. */
    static RowSupply rows(Plan plan, SourceSupply source, RunRecords records, Pulse pulse) {
        return plan.isShaped()
                ? any -> Shaping.kept(records.shaped()
                        .orElseThrow(() -> new CannotGoOn(Problem.of(
                                ProblemCode.FILE_MISSING, "What the steps made of the rows is no longer kept.", ""))))
                : straight(source, pulse);
    }

    /** The rows of a source, through the steps of a plan that looks at one row alone. */
    static RowSupply straight(SourceSupply source, Pulse pulse) {
        return new RowSupply() {
            @Override
            public RowFlow open(Plan plan) {
                return Shaping.plain(plan, source.open(), pulse);
            }

            @Override
            public RowFlow openReduced(Plan plan) {
                SourceReader reader = source.open();
                BitSet needed = new BitSet();
                plan.inputs().forEach(input -> needed.set(input.column()));
                reader.needOnly(needed);
                return new ReadAhead(Shaping.plain(plan, reader, pulse));
            }
        };
    }

    @Override
    public void close() {
        repeats.close();
    }
}
