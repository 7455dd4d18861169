package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.system.WritesTogether;
import java.util.ArrayList;
import java.util.List;

/** The targets of all writes of a job: one connection, whose units span them. */
final class Targets implements AutoCloseable {
    private final List<Target> targets = new ArrayList<>();

    private Targets() {}

    static Targets open(Plan plan, Writes system) {
        Targets all = new Targets();
        for (PlannedWrite write : plan.writes()) {
            if (all.targets.isEmpty()) {
                all.targets.add(system.target(write.target(), write.use()));
            } else if (all.main() instanceof WritesTogether together) {
                all.targets.add(together.beside(write.target(), write.use()));
            } else {
                all.close();
                throw new CannotGoOn(Problem.of(
                        ProblemCode.CONNECTION_UNFIT,
                        "The connection " + write.connection() + " can't write several record types together.",
                        "Make a job of each write."));
            }
        }
        return all;
    }

    /** The target that begins units and settles them. */
    Target main() {
        return targets.getFirst();
    }

    Target of(int write) {
        return targets.get(write);
    }

    List<Answer> apply(Target.Unit unit, int write, List<Change> changes) {
        return write == 0 || !(main() instanceof WritesTogether together)
                ? unit.apply(changes)
                : together.apply(unit, of(write), changes);
    }

    @Override
    public void close() {
        main().close();
    }
}
