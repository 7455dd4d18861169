package dev.nachlauf.connectors.place;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.text.NamePattern;
import java.time.Duration;
import java.util.function.Predicate;

/** What all places share: names with wildcards, and the time for which a file must have lain untouched. */
public final class FilePattern {
    /** The setting for {@link #quiet}. */
    public static final Setting QUIET = Setting.optional(
            "quiet", "seconds for which a file must have lain untouched before it is taken; 2 unless stated");

    private static final int USUAL_QUIET = 2;
    private static final int LONGEST_QUIET = 86_400;

    private FilePattern() {}

    /** How long a file must have lain untouched. */
    public static Duration quiet(Settings settings) {
        return Duration.ofSeconds(settings.integer(QUIET.name(), USUAL_QUIET, 0, LONGEST_QUIET));
    }

    /**
     * The name under which a file is written before it is there whole. It is hidden, so no pattern finds it.
     *
     * @throws CannotGoOn where the name leads out of the place, or is hidden itself
     */
    public static String unfinished(String name) {
        boolean leads = name.contains("/") || name.contains("\\") || name.startsWith(".") || name.isBlank();
        if (leads || name.chars().anyMatch(Character::isISOControl)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SETTING_MALFORMED,
                    "A file can't be delivered under the name " + name + ".",
                    "Give it a name without a path that begins with no point."));
        }
        return "." + name + ".unfinished";
    }

    /**
     * Whether a name matches: {@code *} stands for any characters, {@code ?} for one. A name that starts with a point is
     * hidden and only found by a pattern that starts with one.
     *
     * @throws CannotGoOn where the pattern leads out of the place
     */
    public static Predicate<String> matcher(String pattern) {
        if (pattern.contains("/") || pattern.contains("\\") || pattern.contains("..")) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.SETTING_MALFORMED,
                    "The file " + pattern + " leads out of the place.",
                    "Name a file in it, with * and ? where its name varies."));
        }
        NamePattern names = NamePattern.of(pattern);
        return name -> (pattern.startsWith(".") || !name.startsWith(".")) && names.matches(name);
    }
}
