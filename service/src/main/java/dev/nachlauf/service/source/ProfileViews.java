package dev.nachlauf.service.source;

import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.ProfileView.FieldProfileView;
import dev.nachlauf.api.ProfileView.KeyAdviceView;
import dev.nachlauf.api.ProfileView.KeyView;
import dev.nachlauf.api.ProfileView.MisfitView;
import dev.nachlauf.api.ProfileView.RemarkView;
import dev.nachlauf.api.ProfileView.RepeatView;
import dev.nachlauf.api.ProfileView.ValueCountView;
import dev.nachlauf.core.profile.FieldProfile;
import dev.nachlauf.core.profile.KeyAdvice;
import dev.nachlauf.core.profile.KeyFigures;
import dev.nachlauf.core.profile.Profile;
import dev.nachlauf.core.profile.ValueCount;
import dev.nachlauf.service.web.Masked;
import dev.nachlauf.service.web.ProblemViews;
import java.util.List;
import java.util.Set;

/** A profile as it leaves the service: of sensitive columns figures and shapes are told, values are not. */
final class ProfileViews {
    private final Set<String> sensitive;

    /** @param sensitive the columns of the source whose values are not shown */
    ProfileViews(Set<String> sensitive) {
        this.sensitive = Set.copyOf(sensitive);
    }

    ProfileView of(String name, Profile profile, List<KeyAdvice> advice) {
        return new ProfileView(
                name,
                profile.rows(),
                profile.broken(),
                profile.fields().stream().map(this::field).toList(),
                profile.remarks().stream().map(this::remark).toList(),
                profile.keys().stream().map(this::key).toList(),
                advice.stream().map(this::advice).toList(),
                ProblemViews.of(profile.failures()));
    }

    private FieldProfileView field(FieldProfile field) {
        boolean hidden = sensitive.contains(field.field().name());
        return new FieldProfileView(
                field.field().name(),
                field.guess().reading().kind().word(),
                field.guess().reading().pattern(),
                field.guess().reading().locale(),
                hidden ? "" : field.guess().question(),
                field.filled(),
                field.blank(),
                field.distinct(),
                field.distinctExact(),
                Masked.value(field.smallest(), hidden),
                Masked.value(field.largest(), hidden),
                field.shortest(),
                field.longest(),
                counts(field.commonest(), hidden),
                field.commonestExact(),
                counts(field.shapes(), false),
                field.misfits(),
                field.examples().stream()
                        .map(misfit -> new MisfitView(shown(misfit.value(), hidden), misfit.place()))
                        .toList(),
                field.spellings().stream().map(counts -> counts(counts, hidden)).toList());
    }

    private RemarkView remark(Profile.Remark remark) {
        boolean tellsValue = remark.about().equals(Profile.Remark.CONSTANT);
        return new RemarkView(
                remark.about(),
                remark.fields(),
                tellsValue && isHidden(remark.fields())
                        ? remark.fields().getFirst() + " is the same in every row."
                        : remark.sentence());
    }

    private static String shown(String value, boolean hidden) {
        return hidden ? Masked.HIDDEN : value;
    }

    private static List<ValueCountView> counts(List<ValueCount> counts, boolean hidden) {
        return counts.stream()
                .map(count -> new ValueCountView(shown(count.value(), hidden), count.count()))
                .toList();
    }

    /** A key shows a sensitive value where any of its columns is sensitive. */
    private boolean isHidden(List<String> columns) {
        return columns.stream().anyMatch(sensitive::contains);
    }

    private KeyView key(KeyFigures key) {
        boolean hidden = isHidden(key.fields());
        return new KeyView(
                key.fields(),
                key.filled(),
                key.distinct(),
                key.repeated(),
                key.examples().stream()
                        .map(repeat -> new RepeatView(shown(repeat.key(), hidden), repeat.count(), repeat.rows()))
                        .toList());
    }

    private KeyAdviceView advice(KeyAdvice advice) {
        boolean hidden = isHidden(advice.source());
        return new KeyAdviceView(
                advice.source(),
                advice.target(),
                advice.formula(),
                advice.keptUnique(),
                key(advice.key()),
                advice.insert(),
                advice.update(),
                advice.ambiguous(),
                advice.unusable(),
                advice.notFound().stream().map(value -> shown(value, hidden)).toList(),
                advice.severalFound().stream()
                        .map(value -> shown(value, hidden))
                        .toList(),
                advice.score());
    }
}
