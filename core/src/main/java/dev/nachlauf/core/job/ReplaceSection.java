package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.List;
import java.util.Optional;

/** The keys of a write that say what becomes of records which the source no longer has. */
final class ReplaceSection {
    private static final List<String> KEYS = List.of("scope", "within", "gone", "deactivated", "empty-source");

    private final Words words;

    ReplaceSection(Words words) {
        this.words = words;
    }

    /** What a write says; empty where its action is another one. */
    Optional<Replacing> replacing(Section section, String action) {
        if (!action.equals("replace")) {
            KEYS.stream().filter(section::has).forEach(key -> {
                section.problem(
                        key,
                        ProblemCode.VALUE_WRONG_KIND,
                        key + " has no meaning for action: " + action + ".",
                        "It goes with action: replace.");
            });
            return Optional.empty();
        }
        boolean deactivates =
                Words.oneOf(section, "gone", "delete", "deactivate").equals("deactivate");
        List<Assignment> deactivated =
                section.section("deactivated").map(words::assignments).orElse(List.of());
        if (deactivates == deactivated.isEmpty()) {
            section.problem(
                    deactivates ? "gone" : "deactivated",
                    ProblemCode.KEY_MISSING,
                    deactivates
                            ? "gone: deactivate says that records stay, but not what they hold from then on."
                            : "deactivated says what records hold that are gone, but they are removed.",
                    deactivates ? "Say it, such as deactivated: { active: false }." : "Say gone: deactivate.");
        }
        return Optional.of(new Replacing(
                section.has("scope") ? section.formula("scope") : Optional.empty(),
                section.has("within") ? words.names(section, "within") : List.of(),
                deactivated,
                Words.oneOf(section, "empty-source", "refuse", "allow").equals("allow")));
    }
}
