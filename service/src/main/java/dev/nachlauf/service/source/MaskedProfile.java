package dev.nachlauf.service.source;

import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.ProfileView.FieldProfileView;
import dev.nachlauf.api.ProfileView.KeyAdviceView;
import dev.nachlauf.api.ProfileView.KeyView;
import dev.nachlauf.api.ProfileView.MisfitView;
import dev.nachlauf.api.ProfileView.RepeatView;
import dev.nachlauf.api.ProfileView.ValueCountView;
import dev.nachlauf.service.web.Masked;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** A profile without the values of sensitive fields: figures and shapes are told, values are not. */
record MaskedProfile(Set<String> columns) {
    ProfileView of(ProfileView profile) {
        if (columns.isEmpty()) {
            return profile;
        }
        return new ProfileView(
                profile.name(),
                profile.rows(),
                profile.broken(),
                profile.fields().stream().map(this::field).toList(),
                profile.remarks(),
                profile.keys().stream().map(this::key).toList(),
                profile.advice().stream().map(this::advice).toList(),
                profile.failures());
    }

    private FieldProfileView field(FieldProfileView field) {
        if (!columns.contains(field.name())) {
            return field;
        }
        return new FieldProfileView(
                field.name(),
                field.kind(),
                field.pattern(),
                field.locale(),
                "",
                field.filled(),
                field.blank(),
                field.distinct(),
                field.distinctExact(),
                Masked.value(field.smallest(), true),
                Masked.value(field.largest(), true),
                field.shortest(),
                field.longest(),
                hidden(field.commonest()),
                field.commonestExact(),
                field.shapes(),
                field.misfits(),
                field.examples().stream()
                        .map(misfit -> new MisfitView(Masked.HIDDEN, misfit.place()))
                        .toList(),
                field.spellings().stream().map(MaskedProfile::hidden).toList());
    }

    private static List<ValueCountView> hidden(List<ValueCountView> counts) {
        return counts.stream()
                .map(count -> new ValueCountView(Masked.HIDDEN, count.count()))
                .toList();
    }

    private KeyView key(KeyView key) {
        Predicate<String> sensitive = columns::contains;
        if (key.fields().stream().noneMatch(sensitive)) {
            return key;
        }
        return new KeyView(
                key.fields(),
                key.filled(),
                key.distinct(),
                key.repeated(),
                key.examples().stream()
                        .map(repeat -> new RepeatView(Masked.HIDDEN, repeat.count(), repeat.rows()))
                        .toList());
    }

    private KeyAdviceView advice(KeyAdviceView advice) {
        if (advice.source().stream().noneMatch(columns::contains)) {
            return advice;
        }
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
                advice.notFound().stream().map(key -> Masked.HIDDEN).toList(),
                advice.severalFound().stream().map(key -> Masked.HIDDEN).toList(),
                advice.score());
    }
}
