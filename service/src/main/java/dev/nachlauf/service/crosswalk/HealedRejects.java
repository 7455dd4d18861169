package dev.nachlauf.service.crosswalk;

import dev.nachlauf.core.crosswalk.Gap;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.service.reject.Rejects;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.service.shared.Pins;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Open rejects that lacked translations only, all of which are there now. */
@Component
class HealedRejects {
    private final Crosswalks crosswalks;
    private final Rejects rejects;

    HealedRejects(Crosswalks crosswalks, Rejects rejects) {
        this.crosswalks = crosswalks;
        this.rejects = rejects;
    }

    /**
     * Those of a run, or of all, by id, in order.
     *
     * @param crosswalk the one of which something was missing
     */
    List<Long> of(String crosswalk, @Nullable Long run) {
        Map<String, Translation> translations = crosswalks.translations(Pins.NEWEST);
        List<Long> healed = new ArrayList<>();
        rejects.lackingTranslations(run, reject -> {
            List<Optional<Gap>> gaps = reject.problems().stream()
                    .map(problem -> problem.code().equals(ProblemCode.NO_TRANSLATION.id()) && problem.subject() != null
                            ? Gap.of(problem.subject())
                            : Optional.<Gap>empty())
                    .toList();
            boolean about = gaps.stream()
                    .anyMatch(gap -> gap.isPresent() && gap.get().crosswalk().equals(crosswalk));
            boolean all = gaps.stream()
                    .allMatch(gap -> gap.isPresent()
                            && translates(translations.get(gap.get().crosswalk()), gap.get()));
            if (about && all) {
                healed.add(reject.id());
            }
        });
        return healed;
    }

    private static boolean translates(@Nullable Translation translation, Gap gap) {
        if (translation == null) {
            return false;
        }
        try {
            translation.translate(gap.value(), gap.scope().isEmpty() ? null : gap.scope());
            return true;
        } catch (ValueProblem e) {
            return false;
        }
    }
}
