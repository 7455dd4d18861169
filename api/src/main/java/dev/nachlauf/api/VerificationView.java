package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a run has written, compared with what is there now.
 *
 * @param compared how many records were compared
 * @param seed what chose the sample; the same one chooses it again
 * @param differences the first thousand of them, newest first
 */
public record VerificationView(
        long run, long compared, long equal, long differs, long gone, long seed, List<Difference> differences) {
    /**
     * A record that is not as the run has left it.
     *
     * @param found {@code differs}, {@code gone}, or {@code there again} where the run had removed it
     */
    public record Difference(long row, String write, List<String> key, String found, List<Field> fields) {}

    /** A field as it was written, and as it is now; null where it was or is empty. */
    public record Field(
            String field,
            @Nullable String written,
            @Nullable String now) {}
}
