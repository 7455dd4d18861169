package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A run as lists show it.
 *
 * @param state waiting, running, held, finished, failed, stopped or discarded
 * @param mode what it is for: write, dry-run, rehearse, hold or undo
 * @param environment where it runs; empty where there are no environments
 * @param planned whether its counts say what is planned, not what was done
 * @param note what a waiting run waits for; empty otherwise
 * @param reasons why it failed or is held
 * @param balance without its steps and writes, which the run by itself shows
 * @param openRejects rejects that nobody has dealt with yet
 * @param source what was read, for people
 * @param undoes the run that it takes back; null of others
 */
public record RunLine(
        long id,
        String job,
        int jobVersion,
        String state,
        String mode,
        String environment,
        boolean planned,
        String note,
        List<ProblemView> reasons,
        BalanceView balance,
        long openRejects,
        String source,
        @Nullable Long undoes,
        String startedBy,
        Instant createdAt,
        @Nullable Instant startedAt,
        @Nullable Instant endedAt) {}
