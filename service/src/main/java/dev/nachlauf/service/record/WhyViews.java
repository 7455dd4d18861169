package dev.nachlauf.service.record;

import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.RecordHistoryView.Change;
import dev.nachlauf.api.TranslationView;
import dev.nachlauf.api.WhyView;
import dev.nachlauf.api.WhyView.Link;
import dev.nachlauf.core.explain.Derivation;
import dev.nachlauf.core.explain.Derivation.Kind;
import dev.nachlauf.core.explain.Derivation.Translated;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.SensitiveColumns;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.run.RunPreparation;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.web.Masked;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.springframework.stereotype.Component;

/** The way of a value for people, without what is kept from them. */
@Component
class WhyViews {
    private final RunPreparation preparation;
    private final RunViews runs;
    private final Crosswalks crosswalks;

    WhyViews(RunPreparation preparation, RunViews runs, Crosswalks crosswalks) {
        this.runs = runs;
        this.preparation = preparation;
        this.crosswalks = crosswalks;
    }

    WhyView of(
            Change change,
            FieldChange field,
            Plan plan,
            String place,
            Derivation way,
            boolean same,
            List<String> notes) {
        boolean masked = plan.writes().stream()
                .filter(write -> write.name().equals(change.write()))
                .anyMatch(write -> write.sensitiveFields().contains(field.field()));
        Link shown = new Links(preparation.pins(change.run()), Set.copyOf(SensitiveColumns.of(plan))).of(way, masked);
        List<String> all = new ArrayList<>(notes);
        Long resubmits = runs.show(change.run()).choice().resubmits();
        if (resubmits != null) {
            all.add("The run has sent rejects of run " + resubmits
                    + " again: what was corrected stands in place of the cells.");
        }
        if (asks(way)) {
            all.add("Records that were looked up are asked as they are now.");
        }
        // of a masked value nobody is told whether it is the same: that too says something of it
        return new WhyView(
                change.run(),
                change.job(),
                change.jobVersion(),
                change.by(),
                change.at(),
                change.write(),
                change.row(),
                place,
                field.field(),
                field.after(),
                masked || same,
                all,
                shown);
    }

    private static boolean asks(Derivation link) {
        return link.kind() == Kind.LOOKUP
                || link.kind() == Kind.REFERENCE
                || link.from().stream().anyMatch(WhyViews::asks);
    }

    /** Links of one run. */
    private final class Links {
        private final Pins pins;
        private final Set<String> sensitive;

        Links(Pins pins, Set<String> sensitive) {
            this.pins = pins;
            this.sensitive = sensitive;
        }

        /** @param masked whether what is made of it is kept, and so it is too */
        Link of(Derivation link, boolean masked) {
            boolean hidden = masked || isSensitive(link);
            return new Link(
                    link.kind().name().toLowerCase(Locale.ROOT),
                    link.name(),
                    Masked.value(Values.text(link.value()), hidden),
                    link.how(),
                    link.place(),
                    hidden ? List.of() : translations(link.translated()),
                    link.from().stream().map(from -> of(from, masked)).toList());
        }

        private boolean isSensitive(Derivation link) {
            return link.kind() == Kind.CELL && sensitive.contains(link.name())
                    || link.from().stream().anyMatch(this::isSensitive);
        }

        private List<TranslationView> translations(List<Translated> translated) {
            List<TranslationView> found = new ArrayList<>();
            for (Translated one : translated) {
                if (one.value() != null) {
                    crosswalks
                            .translate(pins, one.crosswalk(), one.value(), one.scope())
                            .ifPresent(found::add);
                }
            }
            return found;
        }
    }
}
