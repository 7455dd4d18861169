package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.system.WritesTogether;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * The targets of all writes of a job. Those of one connection share its units; connections are counted from 0 in the
 * order in which the writes name them.
 */
final class Targets implements AutoCloseable {
    private final List<Writes> systems = new ArrayList<>();
    private final List<Target> leaders = new ArrayList<>();
    private final List<Target> targets = new ArrayList<>();
    private final List<Integer> connections = new ArrayList<>();

    private Targets() {}

    /** @param systems the system of each connection, by its name in the job; the same one for the same system */
    static Targets open(Plan plan, Function<String, Writes> systems) {
        Targets all = new Targets();
        try {
            plan.writes().forEach(write -> all.add(write, systems.apply(write.connection())));
            return all;
        } catch (RuntimeException e) {
            all.close();
            throw e;
        }
    }

    private void add(PlannedWrite write, Writes system) {
        int connection = systems.indexOf(system);
        if (connection < 0) {
            connection = systems.size();
            Target leader = system.target(write.target(), write.use());
            systems.add(system);
            leaders.add(leader);
            targets.add(leader);
        } else if (leaders.get(connection) instanceof WritesTogether together) {
            targets.add(together.beside(write.target(), write.use()));
        } else {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.CONNECTION_UNFIT,
                    "The connection " + write.connection() + " can't write several record types together.",
                    "Make a job of each write."));
        }
        connections.add(connection);
    }

    /** Which connection a write goes to. */
    int connection(int write) {
        return connections.get(write);
    }

    /** The target that begins units of a connection and settles them. */
    Target leader(int connection) {
        return leaders.get(connection);
    }

    Target of(int write) {
        return targets.get(write);
    }

    /** How many rows a batch has at most. */
    int batchRows() {
        return leaders.stream()
                .mapToInt(leader -> leader.traits().batchRows())
                .min()
                .orElseThrow();
    }

    /** Whether two batches may be under way at once. */
    boolean severalWriters() {
        return leaders.stream().allMatch(leader -> leader.traits().severalWriters());
    }

    /** Nothing is begun in a connection before something is applied there. */
    Work begin(UnitId id) {
        return new Work(this, id);
    }

    @Override
    public void close() {
        leaders.forEach(Target::close);
    }
}
