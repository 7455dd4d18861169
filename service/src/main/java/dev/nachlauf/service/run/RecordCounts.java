package dev.nachlauf.service.run;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.core.system.ListsRecords;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.service.job.JobSystems;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** How many records the targets of a job hold. */
final class RecordCounts {
    private RecordCounts() {}

    /**
     * Those of all targets, by connection and record type.
     *
     * @throws CannotGoOn where one can't count
     */
    static Map<String, Long> of(Plan plan, JobSystems systems) {
        Map<String, Long> counts = new TreeMap<>();
        for (PlannedWrite write : plan.writes()) {
            counts.computeIfAbsent(name(write.connection(), write.target().name()), name -> count(write, systems));
        }
        return counts;
    }

    private static String name(String connection, String records) {
        return connection + " " + records;
    }

    private static long count(PlannedWrite write, JobSystems systems) {
        try (Target target = systems.target(write.connection()).target(write.target(), write.use())) {
            if (target instanceof ListsRecords counts) {
                return counts.count();
            }
        }
        throw new CannotGoOn(Problem.of(
                ProblemCode.CONNECTION_UNFIT,
                write.connection() + " can't say how many records "
                        + write.target().name() + " holds.",
                "Leave records out under totals."));
    }

    /** The counts before and after, with what a run says it has inserted and deleted. */
    static List<ControlTotalsView.Records> compared(
            Map<String, Long> before, Map<String, Long> after, Plan plan, Balance balance) {
        List<Counts> outcomes = balance.tally().outcomes(balance.counts());
        List<LedgerWrites.Write> writes = LedgerWrites.of(plan).writes();
        List<ControlTotalsView.Records> compared = new ArrayList<>();
        before.forEach((name, held) -> {
            long inserted = 0;
            long deleted = 0;
            for (int i = 0; i < writes.size() && i < outcomes.size(); i++) {
                if (name(writes.get(i).connection(), writes.get(i).records()).equals(name)) {
                    inserted += outcomes.get(i).inserted();
                    deleted += outcomes.get(i).deleted();
                }
            }
            long now = after.getOrDefault(name, 0L);
            compared.add(new ControlTotalsView.Records(
                    name, held, inserted, deleted, now, held + inserted - deleted != now));
        });
        return compared;
    }
}
