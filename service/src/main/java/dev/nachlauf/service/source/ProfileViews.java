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
import dev.nachlauf.service.web.ProblemViews;
import java.util.List;

/** A profile as it leaves the service. */
final class ProfileViews {
    private ProfileViews() {}

    static ProfileView of(String name, Profile profile, List<KeyAdvice> advice) {
        return new ProfileView(
                name,
                profile.rows(),
                profile.broken(),
                profile.fields().stream().map(ProfileViews::field).toList(),
                profile.remarks().stream()
                        .map(remark -> new RemarkView(remark.about(), remark.fields(), remark.sentence()))
                        .toList(),
                profile.keys().stream().map(ProfileViews::key).toList(),
                advice.stream().map(ProfileViews::advice).toList(),
                ProblemViews.of(profile.failures()));
    }

    private static FieldProfileView field(FieldProfile field) {
        return new FieldProfileView(
                field.field().name(),
                field.guess().reading().kind().word(),
                field.guess().reading().pattern(),
                field.guess().reading().locale(),
                field.guess().question(),
                field.filled(),
                field.blank(),
                field.distinct(),
                field.distinctExact(),
                field.smallest(),
                field.largest(),
                field.shortest(),
                field.longest(),
                counts(field.commonest()),
                field.commonestExact(),
                counts(field.shapes()),
                field.misfits(),
                field.examples().stream()
                        .map(misfit -> new MisfitView(misfit.value(), misfit.place()))
                        .toList(),
                field.spellings().stream().map(ProfileViews::counts).toList());
    }

    private static List<ValueCountView> counts(List<ValueCount> counts) {
        return counts.stream()
                .map(count -> new ValueCountView(count.value(), count.count()))
                .toList();
    }

    private static KeyView key(KeyFigures key) {
        return new KeyView(
                key.fields(),
                key.filled(),
                key.distinct(),
                key.repeated(),
                key.examples().stream()
                        .map(repeat -> new RepeatView(repeat.key(), repeat.count(), repeat.rows()))
                        .toList());
    }

    private static KeyAdviceView advice(KeyAdvice advice) {
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
                advice.notFound(),
                advice.severalFound(),
                advice.score());
    }
}
