package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** An entry of {@code tell:} of a job. */
final class TellSection {
    private final Words words;

    TellSection(Words words) {
        this.words = words;
    }

    Tell tell(Section section) {
        Placed<String> by = words.placed(section, "by");
        List<Placed<String>> to = section.has("to") ? words.names(section, "to") : List.of();
        Set<Occasion> when = section.has("when") ? occasions(section) : EnumSet.allOf(Occasion.class);
        section.done();
        return new Tell(by, to, when);
    }

    private Set<Occasion> occasions(Section section) {
        List<Occasion> occasions = new ArrayList<>();
        for (Placed<String> word : words.names(section, "when")) {
            Occasion.of(word.value())
                    .ifPresentOrElse(
                            occasions::add,
                            () -> words.add(
                                    word.place(),
                                    ProblemCode.VALUE_WRONG_KIND,
                                    "Nobody is told when a run is " + word.value() + ".",
                                    NearestNames.suggestion(
                                            word.value(),
                                            Occasion.words(),
                                            "when holds some of " + String.join(", ", Occasion.words()) + ".")));
        }
        return occasions.isEmpty() ? Set.of() : EnumSet.copyOf(occasions);
    }
}
