package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A rejected row.
 *
 * @param header the source's column names; {@code raw} holds the cells in the same order, with null for empty ones
 * @param rows how many rows of the source it stands for: several where a step made one row of them; {@code raw} is
 *     then that of the first
 * @param place where the row stands in its source, for people: file and line, sheet and row, or the path of a record
 * @param byTarget whether the target refused it though no check stood against it
 * @param state open or set-aside
 */
public record RejectView(
        long id,
        long run,
        String job,
        String file,
        long row,
        long rows,
        long line,
        String place,
        String key,
        List<String> header,
        List<@Nullable String> raw,
        List<ProblemView> problems,
        boolean byTarget,
        String state,
        Instant createdAt) {}
