package dev.nachlauf.service.ledger;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.run.LedgerOf;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.web.Masked;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Lines of a ledger as people see them. */
final class LedgerRowViews {
    /** Stands for the id of a record that is only planned. */
    static final String NEW = "new";

    private final LedgerOf of;

    LedgerRowViews(LedgerOf of) {
        this.of = of;
    }

    LedgerRowView of(LedgerRow row) {
        return view(row, row.outcome().word(), row.note());
    }

    /** A row of a batch of which nobody knows whether it was written: what was to become of it is not told as done. */
    LedgerRowView doubtful(LedgerRow row) {
        LedgerRowView view = view(row, Ledger.UNKNOWN, ProblemCode.OUTCOME_UNKNOWN.id());
        return new LedgerRowView(
                view.row(),
                view.write(),
                view.source(),
                view.line(),
                view.outcome(),
                view.note(),
                view.key(),
                null,
                view.leftOut(),
                view.changes());
    }

    private LedgerRowView view(LedgerRow row, String outcome, String note) {
        WriteCountView write = of.writes().get(row.write());
        List<String> ids = row.write() < of.ids().size() ? of.ids().get(row.write()) : List.of();
        List<FieldChange> changes = new ArrayList<>();
        for (int field = row.changed().nextSetBit(0);
                field >= 0;
                field = row.changed().nextSetBit(field + 1)) {
            String name = write.fields().get(field);
            changes.add(change(name, ids.contains(name), write, row, field));
        }
        if (row.outcome() == Outcome.DELETED) {
            changes.addAll(removed(row, write));
        }
        List<String> key = new ArrayList<>();
        for (int part = 0; row.key() != null && part < write.keyFields().size(); part++) {
            boolean isId = ids.contains(write.keyFields().get(part));
            key.add(String.valueOf(shown(row.key().get(part), isId)));
        }
        return new LedgerRowView(
                row.number(),
                write.write(),
                row.source(),
                row.line(),
                outcome,
                note,
                key,
                isPlanned(row.id()) || isOnlyPlanned(row) ? null : Values.text(row.id()),
                of.leftOut().test(row.number()),
                changes);
    }

    private FieldChange change(String name, boolean isId, WriteCountView write, LedgerRow row, int field) {
        boolean masked = write.sensitive().contains(name);
        return new FieldChange(
                name,
                Masked.value(field < row.before().length ? shown(row.before()[field], isId) : null, masked),
                Masked.value(field < row.after().length ? shown(row.after()[field], isId) : null, masked));
    }

    /** All that is known of a record that is gone. */
    private static List<FieldChange> removed(LedgerRow row, WriteCountView write) {
        List<FieldChange> held = new ArrayList<>();
        for (int field = 0; row.changed().isEmpty() && field < write.fields().size(); field++) {
            String name = write.fields().get(field);
            if (field < row.before().length && row.before()[field] != null) {
                boolean masked = write.sensitive().contains(name);
                held.add(new FieldChange(name, Masked.value(Values.text(row.before()[field]), masked), null));
            }
        }
        return held;
    }

    private @Nullable String shown(@Nullable Object value, boolean isId) {
        return isId && isPlanned(value) ? NEW : Values.text(value);
    }

    /** A rehearsal knows ids of new records that were taken back with them. */
    private boolean isOnlyPlanned(LedgerRow row) {
        return of.stage() == LedgerStage.PLANNED && row.outcome() == Outcome.INSERTED;
    }

    /** Whether this stands for an id that will be known when the record is written. */
    private boolean isPlanned(@Nullable Object id) {
        return of.stage() == LedgerStage.PLANNED && id instanceof Long number && number < 0;
    }
}
