package dev.nachlauf.connectors.format.packed;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.Locale;

/** What packed files can have in common: damage. */
final class Packing {
    private Packing() {}

    static CannotGoOn damaged(String file) {
        return new CannotGoOn(Problem.of(
                ProblemCode.FILE_MALFORMED,
                "The packed file " + file + " is damaged, or its end is missing.",
                "Ask the sender for it again."));
    }

    /** A file that is called a packed one and isn't is damaged where one would know it by: its rows would be noise. */
    static void refuseByName(String file, String ending) {
        if (file.toLowerCase(Locale.ROOT).endsWith(ending)) {
            throw damaged(file);
        }
    }
}
