package dev.nachlauf.service.record;

import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.RecordHistoryView;
import dev.nachlauf.api.RecordHistoryView.Change;
import dev.nachlauf.api.WhyView;
import dev.nachlauf.core.explain.Derivation;
import dev.nachlauf.core.explain.Explainer;
import dev.nachlauf.core.explain.HeardTranslations;
import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.MappedRows;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.run.RunPreparation;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Why a field of a record holds what it holds: the way of its value, gone once more from the source that is kept. */
@Component
class RecordWhy {
    private static final int PAGE = 50;

    private final RecordHistory history;
    private final RunPreparation preparation;
    private final WhyViews views;
    private final ScratchSpace scratchSpace;

    RecordWhy(RecordHistory history, RunPreparation preparation, WhyViews views, ScratchSpace scratchSpace) {
        this.history = history;
        this.preparation = preparation;
        this.views = views;
        this.scratchSpace = scratchSpace;
    }

    /** What has written the field last, and what was taken back since. */
    private record Written(Change change, FieldChange field, List<String> notes) {}

    /**
     * The way of a value.
     *
     * @throws CannotGoOn where no run has written the field, or the source of that run is no longer kept
     */
    WhyView of(String connection, String records, Map<String, String> key, String field) {
        Written written = written(connection, records, key, field);
        Change change = written.change;
        HeardTranslations heard = new HeardTranslations();
        try (ScratchFolder scratch = scratchSpace.create();
                PreparedJob job = preparation.asItWas(change.run(), scratch.path(), heard::over);
                MappedRows rows = job.rows(scratch.path())) {
            int write = number(job, change);
            TargetRow row = row(rows, write, change).orElseThrow(() -> gone(change));
            PlannedWrite planned = job.plan().writes().get(write);
            int index = planned.fieldNames().indexOf(field);
            @Nullable Object value = value(rows, row, write, index);
            boolean later = value == Mapper.LATER;
            Derivation way = new Explainer(job.plan(), heard)
                    .field(row.row(), planned, index, later || value == BrokenInput.VALUE ? null : value);
            return views.of(
                    change,
                    written.field,
                    job.plan(),
                    row.row().source().origin().text(),
                    way,
                    later || Objects.equals(Values.text(value), written.field.after()),
                    written.notes);
        }
    }

    private Written written(String connection, String records, Map<String, String> key, String field) {
        List<String> notes = new ArrayList<>();
        Set<Long> takenBack = new HashSet<>();
        String cursor = null;
        do {
            RecordHistoryView page = history.of(connection, records, key, cursor, PAGE);
            for (Change change : page.items()) {
                Optional<FieldChange> found = change.changes().stream()
                        .filter(one -> one.field().equals(field))
                        .findFirst();
                if (found.isEmpty() || takenBack.contains(change.run())) {
                    continue;
                }
                if (change.undoes() != null) {
                    takenBack.add(change.undoes());
                    notes.add("Run " + change.run() + " has taken back what run " + change.undoes()
                            + " had written here.");
                } else if (change.outcome().equals("deleted")) {
                    throw new CannotGoOn(Problem.of(
                            ProblemCode.NOT_FOUND,
                            "Run " + change.run() + " has removed this record.",
                            "record history shows what it held."));
                } else {
                    return new Written(change, found.get(), notes);
                }
            }
            cursor = page.next();
        } while (cursor != null);
        throw new CannotGoOn(Problem.of(
                ProblemCode.NOT_FOUND,
                "No run has written " + field + " of this record"
                        + (notes.isEmpty() ? "." : ", apart from what was taken back: " + String.join(" ", notes)),
                "record history shows what runs have written."));
    }

    private static int number(PreparedJob job, Change change) {
        List<PlannedWrite> writes = job.plan().writes();
        for (int i = 0; i < writes.size(); i++) {
            if (writes.get(i).name().equals(change.write())) {
                return i;
            }
        }
        throw gone(change);
    }

    private static Optional<TargetRow> row(MappedRows rows, int write, Change change) {
        TargetRow nearest = null;
        for (TargetRow row = rows.next(); row != null; row = rows.next()) {
            if (row.row().source().number() == change.row()) {
                if (hasKey(row.write(write), change)) {
                    return Optional.of(row);
                }
                nearest = nearest == null ? row : nearest;
            }
        }
        return Optional.ofNullable(nearest);
    }

    /** Of the rows that were made of one row of the source, the one with the record's key. */
    private static boolean hasKey(@Nullable WriteRow made, Change change) {
        return made != null
                && made.key() != null
                && Arrays.stream(made.key()).map(Values::text).toList().equals(change.key());
    }

    /** What the map makes of the row; what only the target can tell is {@link Mapper#LATER}. */
    private static @Nullable Object value(MappedRows rows, TargetRow row, int write, int field) {
        WriteRow made = row.write(write) == null
                ? rows.mapper().mapLate(row.row(), write, new ArrayList<>())
                : row.write(write);
        return made == null ? Mapper.LATER : made.values()[field];
    }

    private static CannotGoOn gone(Change change) {
        return new CannotGoOn(Problem.of(
                ProblemCode.SOURCE_READS_OTHERWISE,
                "Row " + change.row() + " of run " + change.run() + " can't be read again as it was.",
                "The ledger still shows what became of it."));
    }
}
