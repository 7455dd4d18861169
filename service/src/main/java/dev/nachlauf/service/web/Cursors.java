package dev.nachlauf.service.web;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import org.jspecify.annotations.Nullable;

/** Cursors of lists: numbers joined by hyphens. */
public final class Cursors {
    /** Most entries of a page. */
    public static final int MOST = 1_000;

    private Cursors() {}

    /** A page size within bounds. */
    public static int limit(int asked) {
        return Math.clamp(asked, 1, MOST);
    }

    /** A single number; {@code otherwise} without a cursor. */
    public static long one(@Nullable String cursor, long otherwise) {
        return cursor == null || cursor.isEmpty() ? otherwise : parts(cursor, 1)[0];
    }

    /** The numbers of a cursor. */
    public static long[] parts(String cursor, int count) {
        String[] texts = cursor.split("-", -1);
        long[] parts = new long[count];
        try {
            if (texts.length == count) {
                for (int i = 0; i < count; i++) {
                    parts[i] = Long.parseLong(texts[i]);
                }
                return parts;
            }
        } catch (NumberFormatException e) {
            // said below
        }
        throw new CannotGoOn(Problem.of(
                ProblemCode.REQUEST_MALFORMED,
                "This is not a cursor of this list.",
                "Take the next of a page as it is."));
    }
}
