package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Origin;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A rejected row.
 *
 * @param number the source row, for people; several rejects can come from one
 * @param position what tells the rejects of a run apart
 * @param rows how many rows of the source it stands for; several where a step made one row of them, and then the raw row
 *     and its place are those of the first
 * @param key the key for people; empty where there is none
 * @param cells the raw row, in the order of the source's header
 * @param byTarget whether the target refused it when it was sent, though no check stood against it
 */
public record Reject(
        long number,
        long position,
        long rows,
        Origin origin,
        String key,
        List<@Nullable String> cells,
        List<Problem> problems,
        boolean byTarget) {}
