package dev.nachlauf.service.run;

import static java.util.Map.entry;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.web.ProblemViews;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The one place where a run changes after its start. Every change is a single update that names the state and, for whoever
 * carries the run out, the epoch that it expects, so two hands can't overwrite each other; it answers what it met. What
 * has to happen next is scheduled in the same transaction. An epoch never goes back.
 */
@Component
public class RunTransitions {
    /** How long until a run that waits for a target tries again. */
    static final Duration AGAIN = Duration.ofSeconds(2);

    private final EntityManager entities;
    private final RunQueue queue;
    private final RunLog log;
    private final Clock clock;

    RunTransitions(EntityManager entities, RunQueue queue, RunLog log, Clock clock) {
        this.entities = entities;
        this.queue = queue;
        this.log = log;
        this.clock = clock;
    }

    /**
     * What a change met.
     *
     * @param made whether it was made
     * @param state the state behind the change, or the one that stood in its way
     */
    record Met(boolean made, RunState state, long epoch) {}

    /** The next number of a run; taken together with the run or not at all. */
    @Transactional
    long nextNumber() {
        return number(entities.createNativeQuery("UPDATE run_number SET last = last + 1 RETURNING last")
                .getSingleResult());
    }

    /** Has a new run carried out that somebody has asked for. */
    @Transactional
    void started(long run, String asked) {
        log.add(run, asked);
        queue.carryOut(run, 0, clock.instant());
    }

    /** Takes a run over, whoever had it before; the answer is the new epoch, empty where there is nothing to do. */
    @Transactional
    OptionalLong claim(long run) {
        Met met = change(
                run,
                "epoch = epoch + 1, state = 'running', note = '', started_at = coalesce(started_at, :now)",
                "state IN ('waiting', 'running')",
                Map.of("now", clock.instant()));
        return log.takenUp(met, run).made() ? OptionalLong.of(met.epoch()) : OptionalLong.empty();
    }

    /**
     * Lets a run wait for a target and try again; not one that somebody wants to end. Waiting is no attempt.
     *
     * @param patience how long it has waited already at most
     * @return made, unless the run is no longer ours, is to stop, or its patience is at its end
     */
    @Transactional
    Met waitForTarget(long run, long epoch, String note, Duration patience) {
        Instant now = clock.instant();
        Met met = change(
                run,
                "state = 'waiting', note = :note, unreachable_since = coalesce(unreachable_since, :now)",
                "state = 'running' AND epoch = :epoch AND NOT stop_requested"
                        + " AND (unreachable_since IS NULL OR unreachable_since > :since)",
                Map.of("epoch", epoch, "note", note, "now", now, "since", now.minus(patience)));
        if (met.made()) {
            queue.carryOut(run, epoch, now.plus(AGAIN));
        }
        return log.waits(met, run, note);
    }

    /** Counts a defect and tries again; the answer is how many there were, empty where the run is no longer ours. */
    @Transactional
    OptionalInt defect(long run, long epoch) {
        Met met = change(
                run,
                "defects = defects + 1, state = 'waiting'",
                "state = 'running' AND epoch = :epoch",
                Map.of("epoch", epoch));
        if (!log.told(met, run, "Met a defect of Nachlauf, and is tried again.").made()) {
            return OptionalInt.empty();
        }
        queue.carryOut(run, epoch, clock.instant().plus(AGAIN));
        return OptionalInt.of((int) number(entities.createNativeQuery("SELECT defects FROM run WHERE id = :id")
                .setParameter("id", run)
                .getSingleResult()));
    }

    /** Ends a run, or holds it for a while, with its result. Where rows are in doubt, they are asked about later. */
    @Transactional
    Met end(long run, long epoch, RunResult result, List<ProblemView> warningsBefore, Duration heldFor) {
        Balance balance = result.balance();
        Instant now = clock.instant();
        List<ProblemView> warnings = warnings(warningsBefore, result);
        Met met = change(
                run,
                "state = :state, reasons = :reasons, warnings = :warnings, note = '', sessions = '{}',"
                        + " rows_read = CASE WHEN :exact THEN :rows ELSE greatest(rows_read, :rows) END,"
                        + " balanced = :balanced,"
                        + " held_until = CASE WHEN :held THEN cast(:until AS timestamptz) END,"
                        + " ended_at = CASE WHEN :final THEN cast(:now AS timestamptz) ELSE ended_at END",
                "state = 'running' AND epoch = :epoch",
                Map.ofEntries(
                        entry("epoch", epoch),
                        entry("state", result.state().word()),
                        entry("held", result.state() == RunState.HELD),
                        entry("until", now.plus(heldFor)),
                        entry("reasons", Json.writeProblems(ProblemViews.of(result.reasons()))),
                        entry("warnings", Json.writeProblems(warnings)),
                        entry("exact", result.state() == RunState.FINISHED || result.state() == RunState.HELD),
                        entry("rows", balance.read()),
                        entry("balanced", balance.gap().isEmpty()),
                        entry("final", result.state().isFinal()),
                        entry("now", now)));
        return log.ended(over(met, run), run, result);
    }

    /** What follows when a run is over, whichever way it ended, or waits for a person. */
    private Met over(Met met, long run) {
        if (met.made()) {
            queue.cameTo(run, met.state());
            if (met.state().isFinal() && isInDoubt(run)) {
                queue.settleLater(run);
            }
        }
        return met;
    }

    private static List<ProblemView> warnings(List<ProblemView> before, RunResult result) {
        return Stream.concat(before.stream(), ProblemViews.of(result.warnings()).stream())
                .distinct()
                .toList();
    }

    /** Ends a run that has found nothing to read; that is no failure. */
    @Transactional
    Met nothingToRead(long run, long epoch, String note) {
        Met met = change(
                run,
                "state = 'finished', note = :note, source_name = :source, balanced = true, ended_at = :now",
                "state = 'running' AND epoch = :epoch",
                Map.of("epoch", epoch, "note", note, "source", RunGathering.NOTHING_NEW, "now", clock.instant()));
        return log.told(over(met, run), run, "Finished: " + note);
    }

    /** Ends a run that waits at once, and one that runs after the batch in hand. */
    @Transactional
    Met stop(long run, String by) {
        // one update for both: between two of them a run could go from the one state to the other
        Met met = change(
                run,
                "stop_requested = true, state = CASE state WHEN 'waiting' THEN 'stopped' ELSE state END,"
                        + " epoch = CASE state WHEN 'waiting' THEN epoch + 1 ELSE epoch END,"
                        + " note = CASE state WHEN 'waiting' THEN '' ELSE note END,"
                        + " ended_at = CASE state WHEN 'waiting' THEN cast(:now AS timestamptz) END",
                "state IN ('waiting', 'running')",
                Map.of("now", clock.instant()));
        return log.told(over(met, run), run, by + " stops it.");
    }

    /**
     * Lets a held run go on. What was held for review is written from now on: its ledger begins anew, and its plan stays.
     *
     * @param beyondLimit whatever limit it crosses
     */
    @Transactional
    Met release(long run, boolean beyondLimit, String by) {
        Met met = goOn(
                run,
                "beyond_limit = beyond_limit OR :beyond, reasons = '[]', held_until = NULL, released_by = :by",
                "state = 'held'",
                Map.of("beyond", beyondLimit, "by", by));
        return log.told(met, run, by + " releases it" + (beyondLimit ? ", whatever limit it crosses." : "."));
    }

    /** Lets a run write what it has planned, for no limit was crossed. */
    @Transactional
    Met planned(long run, long epoch, RunResult plan, List<ProblemView> warningsBefore) {
        Met met = goOn(
                run,
                "warnings = :warnings, rows_read = :rows",
                "state = 'running' AND epoch = :epoch",
                Map.of(
                        "epoch", epoch,
                        "warnings", Json.writeProblems(warnings(warningsBefore, plan)),
                        "rows", plan.balance().read()));
        return log.told(met, run, "Is planned whole; no limit is crossed, so it is written.");
    }

    private Met goOn(long run, String sets, String where, Map<String, Object> parameters) {
        Map<String, Object> all = new HashMap<>(parameters);
        all.put("now", clock.instant());
        Met met = change(
                run,
                "state = 'waiting', foreseen_rejects = 0, released_at = cast(:now AS timestamptz), " + sets
                        + BEGINS_ANEW,
                where,
                all);
        if (met.made()) {
            queue.carryOut(run, met.epoch(), clock.instant());
        }
        return met;
    }

    /** The sums of a run that was only planned so far are of its plan. */
    private static final String BEGINS_ANEW = Stream.of("totals", "tally", "changed_fields")
            .map(column -> ", " + column
                    + " = CASE WHEN (mode = 'hold' OR planned_first) AND released_at IS NULL THEN NULL ELSE " + column
                    + " END")
            .collect(Collectors.joining());

    /** Locks a run that is held for review, for the transaction under way; the answer is how many rows it has. */
    @Transactional
    OptionalLong holdForReview(long run) {
        return entities.createNativeQuery("SELECT rows_read FROM run WHERE id = :id AND state = 'held'"
                        + " AND (mode = 'hold' OR planned_first) AND released_at IS NULL FOR UPDATE")
                .setParameter("id", run)
                .getResultStream()
                .mapToLong(rows -> number(rows))
                .findFirst();
    }

    /** Ends a held run. */
    @Transactional
    Met discard(long run, String by) {
        Met met = change(
                run,
                "state = 'discarded', ended_at = :now, held_until = NULL",
                "state = 'held'",
                Map.of("now", clock.instant()));
        return log.told(over(met, run), run, by + " discards it.");
    }

    /** Takes over a run that has ended, to ask about rows in doubt; empty where there are none. */
    @Transactional
    OptionalLong claimForSettling(long run) {
        if (!isInDoubt(run)) {
            return OptionalLong.empty();
        }
        Met met = change(run, "epoch = epoch + 1", "state IN ('finished', 'failed', 'stopped', 'discarded')", Map.of());
        return met.made() ? OptionalLong.of(met.epoch()) : OptionalLong.empty();
    }

    /** Whether the run has batches of which nobody knows yet whether they were written. */
    @Transactional(readOnly = true)
    boolean isInDoubt(long run) {
        return (Boolean) entities.createNativeQuery(
                        "SELECT EXISTS (SELECT FROM ledger_chunk WHERE run_id = :id AND state = 'pending')")
                .setParameter("id", run)
                .getSingleResult();
    }

    /** Locks the run for the transaction under way, where it is still ours and goes on, or is being settled. */
    @Transactional
    boolean hold(long run, long epoch) {
        return !entities.createNativeQuery("SELECT id FROM run WHERE id = :id AND epoch = :epoch"
                        + " AND state IN ('running', 'finished', 'failed', 'stopped', 'discarded') FOR NO KEY UPDATE")
                .setParameter("id", run)
                .setParameter("epoch", epoch)
                .getResultList()
                .isEmpty();
    }

    private Met change(long run, String set, String where, Map<String, Object> parameters) {
        return RunUpdate.change(entities, run, set, where, parameters);
    }

    private static long number(Object value) {
        return ((Number) value).longValue();
    }
}
