package dev.nachlauf.service.run;

import dev.nachlauf.api.ProblemView;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What lists read of a run: none of its texts that can be long. Components as in {@link RunEntity}. */
record RunRow(
        long id,
        String jobName,
        int jobVersion,
        String state,
        String mode,
        String environment,
        boolean plannedFirst,
        @Nullable Instant releasedAt,
        String note,
        List<ProblemView> reasons,
        @Nullable RunTotals totals,
        long rowsRead,
        @Nullable Boolean balanced,
        long openRejects,
        long foreseenRejects,
        String sourceName,
        @Nullable Long undoes,
        String startedBy,
        Instant createdAt,
        @Nullable Instant startedAt,
        @Nullable Instant endedAt) {}
