package dev.nachlauf.service.run;

import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.run.RunTransitions.Met;
import jakarta.persistence.EntityManager;
import jakarta.persistence.Query;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** One conditional update of a run. */
final class RunUpdate {
    private RunUpdate() {}

    /**
     * Changes a run where it is as expected.
     *
     * @param set columns and their new values, in SQL
     * @param where how the run is expected to be, in SQL
     */
    static Met change(EntityManager entities, long run, String set, String where, Map<String, Object> parameters) {
        Query update = entities.createNativeQuery(
                        "UPDATE run SET " + set + " WHERE id = :id AND " + where + " RETURNING state, epoch")
                .setParameter("id", run);
        parameters.forEach(update::setParameter);
        return first(update, true)
                .or(() -> first(
                        entities.createNativeQuery("SELECT state, epoch FROM run WHERE id = :id")
                                .setParameter("id", run),
                        false))
                .orElseThrow(() -> new IllegalStateException("there is no run " + run));
    }

    private static Optional<Met> first(Query query, boolean made) {
        List<?> rows = query.getResultList();
        if (rows.isEmpty()) {
            return Optional.empty();
        }
        Object[] row = (Object[]) rows.getFirst();
        RunState state = RunState.of(String.valueOf(row[0])).orElseThrow();
        return Optional.of(new Met(made, state, ((Number) row[1]).longValue()));
    }
}
