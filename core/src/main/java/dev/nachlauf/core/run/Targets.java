package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.EndsSessions;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.HoldsSession;
import dev.nachlauf.core.system.Identified;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.Rehearses;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.system.WritesTogether;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.IntPredicate;

/**
 * The targets of all writes of a job. Those of one connection share its units; connections are counted from 0 in the
 * order in which the writes name them.
 */
final class Targets implements AutoCloseable {
    private final List<Writes> systems = new ArrayList<>();
    private final List<Target> leaders = new ArrayList<>();
    private final List<Target> targets = new ArrayList<>();
    private final List<Integer> connections = new ArrayList<>();

    private final List<TargetOpening> wanted;
    private final Function<String, Writes> opening;
    private final RunObserver observer;
    private final RunRecords records;
    private final Map<String, List<String>> sessions;

    private Targets(
            List<TargetOpening> wanted,
            Function<String, Writes> opening,
            RunRecords records,
            RunObserver observer,
            Map<String, List<String>> sessions) {
        this.wanted = wanted;
        this.opening = opening;
        this.records = records;
        this.observer = observer;
        this.sessions = sessions;
    }

    /**
     * Opens them. Sessions that an earlier attempt left behind are ended first, for they may hold locks.
     *
     * @param systems the system of each connection, by its name in the job; the same one for the same system
     * @param observer learns how what waits for a target is ended
     * @throws CannotGoOn with {@code target-restored} where batches were written to what is no longer the same system
     */
    static Targets open(
            List<TargetOpening> wanted, Function<String, Writes> systems, RunRecords records, RunObserver observer) {
        records.sessions().forEach((connection, left) -> {
            if (systems.apply(connection) instanceof EndsSessions ends) {
                left.forEach(ends::end);
            }
        });
        return new Targets(wanted, systems, records, observer, new TreeMap<>()).opened();
    }

    /** The same once more, for a second writer. */
    Targets another() {
        return new Targets(wanted, opening, records, observer, sessions).opened();
    }

    private Targets opened() {
        try {
            wanted.forEach(write -> add(write, opening.apply(write.connection())));
            requireOneKind();
            records.openedSessions(sessions);
            observer.opened(this::abort);
            return this;
        } catch (RuntimeException e) {
            close();
            throw e;
        }
    }

    /** Called by another thread: whatever waits for a target fails. */
    private void abort() {
        leaders.forEach(Target::abort);
    }

    private void note(String connection, Target leader) {
        if (leader instanceof HoldsSession holds) {
            sessions.computeIfAbsent(connection, any -> new ArrayList<>()).add(holds.session());
        }
        if (leader instanceof Identified identified) {
            String now = identified.identity();
            String before = records.identities().get(connection);
            if (before != null && !before.equals(now) && !records.chunks().isEmpty()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.TARGET_RESTORED,
                        "The system of " + connection
                                + " is no longer the one that this run has written to: it was restored, replaced or made anew.",
                        "Compare what the run has written with what is there, then start the job again."));
            }
            records.identify(connection, now);
        }
    }

    private void add(TargetOpening write, Writes system) {
        int connection = systems.indexOf(system);
        if (connection < 0) {
            connection = systems.size();
            Target leader = system.target(write.records(), write.use());
            systems.add(system);
            leaders.add(leader);
            targets.add(leader);
            note(write.connection(), leader);
        } else if (leaders.get(connection) instanceof WritesTogether together) {
            targets.add(together.beside(write.records(), write.use()));
        } else {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.CONNECTION_UNFIT,
                    "The connection " + write.connection() + " can't write several record types together.",
                    "Make a job of each write."));
        }
        connections.add(connection);
    }

    /** What can't be taken back and what can are not written together: no promise for a batch would hold. */
    private void requireOneKind() {
        if (leaders.stream().map(leader -> leader.traits().atomic()).distinct().count() > 1) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.CONNECTION_UNFIT,
                    "The job writes to a system that takes whole batches and to one that takes record by record.",
                    "Make a job of each."));
        }
    }

    /** From now on nothing that is written lasts, in none of them. */
    Targets rehearsing() {
        for (int write = 0; write < targets.size(); write++) {
            if (!(targets.get(write) instanceof Rehearses rehearses)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.CONNECTION_UNFIT,
                        "The connection " + wanted.get(write).connection()
                                + " keeps what it takes, so nothing can be rehearsed there.",
                        "Start a dry run instead: it asks the target and sends nothing."));
            }
            rehearses.rehearse();
        }
        return this;
    }

    /** The records of a write once more, used in another way; closed with the others. */
    Target beside(int write, TargetUse use) {
        if (leaders.get(connection(write)) instanceof WritesTogether together) {
            return together.beside(wanted.get(write).records(), use);
        }
        throw new CannotGoOn(Problem.of(
                ProblemCode.CONNECTION_UNFIT,
                "The connection " + wanted.get(write).connection() + " can't be used in two ways at once.",
                "Let the job upsert instead."));
    }

    /** Whether looking for values of a field finds every record in which it equals one of them. */
    boolean mayFindBy(int write, FieldDescription field) {
        return systems.get(connection(write)) instanceof ReadsRecords reads && reads.canFilterBy(field);
    }

    /** Whether records of a write have an id that is no written field. */
    boolean hasIdOfItsOwn(int write) {
        return wanted.get(write).hasIdOfItsOwn();
    }

    /** Which connection a write goes to. */
    int connection(int write) {
        return connections.get(write);
    }

    /** The connections of those writes of which this is so. */
    SortedSet<Integer> connections(IntPredicate write) {
        SortedSet<Integer> some = new TreeSet<>();
        for (int w = 0; w < targets.size(); w++) {
            if (write.test(w)) {
                some.add(connection(w));
            }
        }
        return some;
    }

    /** The target that begins units of a connection and settles them. */
    Target leader(int connection) {
        return leaders.get(connection);
    }

    /** How each write's target spells its records. */
    List<Cells> cells() {
        return targets.stream().map(Target::cells).toList();
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

    /** Whether a batch is written whole or not at all; if not, each record is written for itself. */
    boolean isAtomic() {
        return leaders.getFirst().traits().atomic();
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
