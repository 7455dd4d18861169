package dev.nachlauf.api;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A run.
 *
 * @param state waiting, running, held, finished, failed, stopped or discarded
 * @param mode what it is for: write, dry-run, rehearse, hold or undo
 * @param environment where it runs; empty where there are no environments
 * @param planned whether its counts and its ledger say what is planned, not what was done
 * @param phase what a running run does: fetching, surveying, planning or writing; empty otherwise
 * @param surveyed rows so far that were fetched, or looked at by the survey
 * @param pace how fast a running run moves; null where nobody can tell
 * @param note what a waiting run waits for, or why a finished one had nothing to read; empty otherwise
 * @param reasons why it failed or is held
 * @param totals the figures that prove it; null before it has come to an end, and where its job has none
 * @param issued the files that it has delivered
 * @param putBack results that are put beside the file that was read; null where its job doesn't say so
 * @param changedFields how often each field was changed by updates
 * @param source what was read, for people: a file's name, how many files, or records of a connection
 * @param files what was read, as it is kept
 * @param warnings what was noticed before the first row was written
 * @param versions the versions of crosswalks and pieces that it was started with, by kind and name, such as {@code crosswalk
 *     region}
 * @param choice which rows it is about, and which it writes first
 * @param openRejects rejects that nobody has dealt with yet
 * @param leftOut how many rows a person has left out of a held run
 * @param heldUntil when a held run ends by itself; null of others
 * @param releasedBy who has released it; null where nobody has
 * @param undoes the run that it takes back; null of others
 * @param undoneBy the newest run that takes it back; null where there is none
 */
public record RunView(
        long id,
        String job,
        int jobVersion,
        String state,
        String mode,
        String environment,
        boolean planned,
        String phase,
        long surveyed,
        @Nullable Pace pace,
        String note,
        List<ProblemView> reasons,
        BalanceView balance,
        @Nullable ControlTotalsView totals,
        List<IssuedFileView> issued,
        @Nullable PutBackView putBack,
        Map<String, Long> changedFields,
        long openRejects,
        String write,
        String targetConnection,
        String targetRecords,
        List<String> fields,
        List<String> keyFields,
        String source,
        List<RunFile> files,
        List<ProblemView> warnings,
        Map<String, String> parameters,
        Map<String, String> versions,
        Choice choice,
        boolean stopRequested,
        long leftOut,
        @Nullable Instant heldUntil,
        @Nullable String releasedBy,
        @Nullable Instant releasedAt,
        @Nullable Long undoes,
        @Nullable Long undoneBy,
        String startedBy,
        Instant createdAt,
        @Nullable Instant startedAt,
        @Nullable Instant endedAt) {

    /**
     * How fast rows go through the phase that a run is in.
     *
     * @param rate rows a second, over the last seconds
     * @param secondsLeft until all rows are through at this rate; null where their number isn't known yet
     */
    public record Pace(long rate, @Nullable Long secondsLeft) {}

    /**
     * Which rows of its source a run is about; null stands for all.
     *
     * @param rows their numbers, such as {@code 1-10,15}
     * @param where the formula that is true for them
     * @param first as many are written before the run is held
     * @param resubmits the run whose rejected rows are sent again
     */
    public record Choice(
            @Nullable String rows,
            @Nullable String where,
            @Nullable Long first,
            @Nullable Long resubmits) {}

    /**
     * A file that was read; size in bytes, hash SHA-256 in hex.
     *
     * @param member the file inside of an archive; the name once more where it is none
     * @param options the format's options in force
     * @param lookedUp whether the run only looks records up in it
     */
    public record RunFile(
            String name,
            String member,
            String hash,
            long size,
            String format,
            Map<String, String> options,
            boolean lookedUp) {}

    /** Whether nothing can follow. */
    public boolean ended() {
        return switch (state) {
            case "finished", "failed", "stopped", "discarded" -> true;
            default -> false;
        };
    }
}
