package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A run as lists show it.
 *
 * @param state waiting, running, held, finished, failed, stopped or discarded
 * @param note what a waiting run waits for; empty otherwise
 * @param reasons why it failed or is held
 * @param balance without its steps and writes, which the run by itself shows
 * @param openRejects rejects that nobody has dealt with yet
 * @param source what was read, for people
 */
public record RunLine(
        long id,
        String job,
        int jobVersion,
        String state,
        String note,
        List<ProblemView> reasons,
        BalanceView balance,
        long openRejects,
        String source,
        String startedBy,
        Instant createdAt,
        @Nullable Instant startedAt,
        @Nullable Instant endedAt) {}
