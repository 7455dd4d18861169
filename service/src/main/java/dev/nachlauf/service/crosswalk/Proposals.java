package dev.nachlauf.service.crosswalk;

import dev.nachlauf.api.ProposalView;
import dev.nachlauf.api.TranslationView;
import dev.nachlauf.core.formula.CrosswalkUse;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.reject.EqualFixes;
import dev.nachlauf.service.reject.EqualFixes.Fix;
import dev.nachlauf.service.reject.EqualFixes.Known;
import dev.nachlauf.service.shared.Crosswalks;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What corrections of rejects teach. Nothing is changed here: a person accepts a proposal, by adding what it says. */
@Component
class Proposals {
    private final EqualFixes fixes;
    private final Jobs jobs;
    private final Crosswalks crosswalks;

    Proposals(EqualFixes fixes, Jobs jobs, Crosswalks crosswalks) {
        this.fixes = fixes;
        this.jobs = jobs;
        this.crosswalks = crosswalks;
    }

    /** All of them, those that stand for most corrections first. */
    List<ProposalView> all() {
        return fixes.all().stream().flatMap(this::proposal).toList();
    }

    private Stream<ProposalView> proposal(Known known) {
        Fix fix = known.fix();
        List<String> translating = Crosswalks.uses(
                        jobs.newest(fix.job()).version().document())
                .stream()
                .filter(use ->
                        use.field().filter(fix.column()::equalsIgnoreCase).isPresent())
                .map(CrosswalkUse::crosswalk)
                .distinct()
                .toList();
        for (String crosswalk : translating) {
            if (crosswalks.translate(crosswalk, fix.from(), null).isPresent()) {
                // somebody has added it since
                return Stream.empty();
            }
            Optional<TranslationView> meant = crosswalks.translate(crosswalk, fix.to(), null);
            if (meant.isPresent()) {
                return Stream.of(view(known, new Proposed(crosswalk, meant.get().translation(), null)));
            }
        }
        return fix.unreadable() ? Stream.empty() : Stream.of(view(known, new Proposed(null, null, step(fix))));
    }

    private record Proposed(
            @Nullable String crosswalk,
            @Nullable String translation,
            @Nullable String step) {}

    private static ProposalView view(Known known, Proposed proposed) {
        Fix fix = known.fix();
        return new ProposalView(
                fix.job(),
                fix.column(),
                fix.from(),
                fix.to(),
                known.rows(),
                proposed.crosswalk,
                proposed.translation,
                proposed.step,
                known.waiting());
    }

    /** In single quotes nothing has a meaning in YAML but the quote itself. */
    private static String step(Fix fix) {
        String column = "\"" + fix.column().replace("\"", "\"\"") + "\"";
        String formula =
                "case " + column + " when " + text(fix.from()) + " then " + text(fix.to()) + " else " + column + " end";
        return "- set: { " + text(fix.column()) + ": " + text(formula) + " }";
    }

    private static String text(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
