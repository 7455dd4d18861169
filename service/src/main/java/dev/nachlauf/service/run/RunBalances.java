package dev.nachlauf.service.run;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.StepCountView;
import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.store.Json;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Row balances as people see them. */
@Component
class RunBalances {
    private final LedgerOfRun ledger;
    private final Jobs jobs;

    RunBalances(LedgerOfRun ledger, Jobs jobs) {
        this.ledger = ledger;
        this.jobs = jobs;
    }

    /** The sums of a run that does not keep them. */
    RunSums sums(long run) {
        return ledger.sums(run);
    }

    /** The balance of a run, as far as lists show it. */
    BalanceView line(long known, RunTotals totals, @Nullable Boolean proven) {
        Balance balance = balance(known, totals, Tally.NONE, proven);
        return view(balance, totals.elsewhere(), proven, List.of(), List.of());
    }

    /** The balance of a run with its steps and writes. */
    BalanceView of(RunEntity run, long known, RunSums sums) {
        Balance balance = balance(known, sums.totals(), sums.tally(), run.balanced);
        return view(
                balance,
                sums.totals().elsewhere(),
                run.balanced,
                steps(run, balance.counts(), sums.tally()),
                writes(run, balance.counts(), sums.tally()));
    }

    /** While rows are still being counted, those in the ledger are known to be there. */
    private static Balance balance(long known, RunTotals totals, Tally tally, @Nullable Boolean proven) {
        long met = totals.counts().read() + totals.inDoubt();
        long rows = proven == null ? Math.max(known, met) : known;
        return new Balance(rows, totals.counts(), tally, false, totals.inDoubt());
    }

    private static BalanceView view(
            Balance balance,
            long elsewhere,
            @Nullable Boolean proven,
            List<StepCountView> steps,
            List<WriteCountView> writes) {
        Counts counts = balance.counts();
        return new BalanceView(
                balance.read(),
                counts.skipped(),
                counts.rejected(),
                balance.passed(),
                balance.unreached(),
                balance.unknown(),
                counts.taken(),
                counts.inserted(),
                counts.updated(),
                counts.unchanged(),
                counts.deleted(),
                counts.issued(),
                counts.refused(),
                counts.warned(),
                elsewhere,
                !Boolean.FALSE.equals(proven) && balance.gap().isEmpty(),
                steps,
                writes);
    }

    /** What each write has done. */
    static List<WriteCountView> writes(RunEntity run, RunSums sums) {
        return writes(run, sums.totals().counts(), sums.tally());
    }

    private static List<WriteCountView> writes(RunEntity run, Counts counts, Tally tally) {
        List<WriteCountView> writes = new ArrayList<>();
        int gone = 0;
        for (Json.RunWrite write : run.knownWrites()) {
            writes.add(write(
                    write,
                    write.removal()
                            ? at(tally.removals(), gone++, Counts.NONE)
                            : at(tally.writes(), writes.size(), write.main() ? counts : Counts.NONE)));
        }
        return writes;
    }

    private static Counts at(List<Counts> counts, int index, Counts otherwise) {
        return index < counts.size() ? counts.get(index) : otherwise;
    }

    private static WriteCountView write(Json.RunWrite write, Counts counts) {
        return new WriteCountView(
                write.name(),
                write.connection(),
                write.records(),
                write.main(),
                write.removal(),
                counts.taken(),
                counts.inserted(),
                counts.updated(),
                counts.unchanged(),
                counts.deleted(),
                counts.issued(),
                counts.refused(),
                write.fields(),
                write.keyFields(),
                write.sensitive());
    }

    /** Rows of the source that a step rejected, before one makes others of them. */
    private static long rejectedBySteps(Tally tally) {
        return tally.steps().stream()
                .takeWhile(step -> step.made() + step.merged() == 0)
                .mapToLong(StepCount::rejected)
                .sum();
    }

    /** The steps, below what could not even be read or isn't what the run is about. */
    private List<StepCountView> steps(RunEntity run, Counts counts, Tally tally) {
        if (tally.steps().isEmpty()) {
            return List.of();
        }
        List<String> labels = jobs.stepLabels(run.jobName, run.jobVersion, run.pins);
        List<StepCountView> steps = new ArrayList<>();
        long readable = tally.steps().getFirst().in();
        long others = counts.read() - readable;
        long rejected = Math.min(others, counts.rejected() - rejectedBySteps(tally));
        steps.add(new StepCountView("reading", counts.read(), 0, readable, others - rejected, rejected, 0));
        for (int i = 0; i < tally.steps().size(); i++) {
            StepCount count = tally.steps().get(i);
            steps.add(new StepCountView(
                    i < labels.size() ? labels.get(i) : "map",
                    count.in(),
                    count.made(),
                    count.out(),
                    count.skipped(),
                    count.rejected(),
                    count.merged()));
        }
        return steps;
    }
}
