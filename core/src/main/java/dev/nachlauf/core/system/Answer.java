package dev.nachlauf.core.system;

import dev.nachlauf.core.problem.Problem;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a target says about one change. */
public sealed interface Answer {
    /** Written. {@code stored} holds the values as they are stored where the target changed them, else null. */
    record Done(@Nullable Object id, @Nullable Object @Nullable [] stored) implements Answer {}

    /** Refused, with all reasons that could be found. */
    record Refused(List<Problem> problems) implements Answer {
        public Refused {
            problems = List.copyOf(problems);
        }
    }

    /** Somebody changed the record since it was found; nothing was written. */
    record Moved() implements Answer {}

    /** Nothing is known. */
    record Unknown() implements Answer {}
}
