package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A rejected row.
 *
 * @param header the source's column names; {@code raw} holds the cells in the same order, with null for empty ones
 * @param rows how many rows of the source it stands for: several where a step made one row of them; {@code raw} is
 *     then that of the first
 * @param place where the row stands in its source, for people: file and line, sheet and row, or the path of a record
 * @param byTarget whether the target refused it though no check stood against it
 * @param state {@code open}, {@code set-aside}, {@code closed} once the row has gone through, or {@code foreseen} of a
 *     row that is only planned
 * @param attempts how often the row was rejected
 * @param edition counts what was decided about it, and its attempts
 * @param corrections what is to stand in a cell when the row is sent again, by the name of its column
 * @param note why it was set aside
 * @param decidedBy who corrected it or set it aside last
 * @param sentBy the run that sends the row again at this moment
 * @param closedBy the run with which the row has gone through
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
        int attempts,
        int edition,
        Map<String, String> corrections,
        String note,
        String decidedBy,
        @Nullable Long sentBy,
        @Nullable Long closedBy,
        Instant createdAt) {}
