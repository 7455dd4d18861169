package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.Unit;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.system.WritesTogether;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What is written of a batch: a unit in each connection that has something to write. Closed without a commit, nothing of
 * it remains.
 */
final class Work implements AutoCloseable {
    private final Targets targets;
    private final UnitId id;
    private final SortedMap<Integer, Unit> units = new TreeMap<>();

    Work(Targets targets, UnitId id) {
        this.targets = targets;
        this.id = id;
    }

    /** Applies a write's changes of some rows, and answers each of them. */
    void apply(int write, ChangeSet changes, int[] which, Answers answers) {
        int connection = targets.connection(write);
        Target leader = targets.leader(connection);
        Unit unit = begun(connection);
        Target target = targets.of(write);
        if (target != leader && leader instanceof WritesTogether together) {
            together.apply(unit, target, changes, which, answers);
        } else {
            unit.apply(changes, which, answers);
        }
    }

    private Unit begun(int connection) {
        return units.computeIfAbsent(
                connection, any -> targets.leader(connection).begin(id));
    }

    /** Begins in these connections; the result is how to ask them later what became of it. */
    SortedMap<Integer, Token> begun(Set<Integer> connections) {
        connections.forEach(this::begun);
        return tokens(connections);
    }

    /** How to ask these connections later whether they were committed. */
    SortedMap<Integer, Token> tokens(Set<Integer> connections) {
        SortedMap<Integer, Token> tokens = new TreeMap<>();
        connections.forEach(
                connection -> tokens.put(connection, unit(connection).token()));
        return tokens;
    }

    /** Makes these connections' units last, one after the other. */
    void commit(Set<Integer> connections, Runnable between) {
        int left = connections.size();
        for (int connection : connections) {
            unit(connection).commit();
            left--;
            if (left > 0) {
                between.run();
            }
        }
    }

    /** Makes all that was begun last, as far as that goes in a rehearsal. */
    void commit() {
        units.values().forEach(Unit::commit);
    }

    private Unit unit(int connection) {
        return Objects.requireNonNull(units.get(connection), "something was applied there");
    }

    @Override
    public void close() {
        units.values().forEach(Unit::close);
    }
}
