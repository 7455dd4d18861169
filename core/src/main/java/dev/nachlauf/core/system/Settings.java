package dev.nachlauf.core.system;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.Map;
import java.util.Optional;

/** The settings of one connection or format. Secrets are resolved when they are asked for and kept nowhere. */
public final class Settings {
    private final Map<String, String> values;
    private final Secrets secrets;

    public Settings(Map<String, String> values, Secrets secrets) {
        this.values = Map.copyOf(values);
        this.secrets = secrets;
    }

    /** A setting. */
    public Optional<String> text(String name) {
        return Optional.ofNullable(values.get(name));
    }

    /** A setting that must be there. */
    public String required(String name) {
        return text(name)
                .orElseThrow(() -> problem(name, ProblemCode.SETTING_MISSING, "The setting " + name + " is missing."));
    }

    /** A whole number between bounds. */
    public int integer(String name, int otherwise, int least, int most) {
        Optional<String> text = text(name);
        try {
            int number = text.map(Integer::parseInt).orElse(otherwise);
            if (number >= least && number <= most) {
                return number;
            }
        } catch (NumberFormatException e) {
            // said below
        }
        throw problem(
                name,
                ProblemCode.SETTING_MALFORMED,
                name + " is a whole number from " + least + " to " + most + ", but " + text.orElse("") + " was found.");
    }

    /** The secret that a setting refers to. */
    public Optional<String> secret(String name) {
        return text(name).map(secrets::resolve);
    }

    private static CannotGoOn problem(String name, ProblemCode code, String sentence) {
        return new CannotGoOn(
                Problem.at(new Place.InSetting(name), code, sentence, "Correct the connection and save it."));
    }
}
