package dev.nachlauf.service.environment;

/** Who knows what an environment is used for. */
public interface EnvironmentUse {
    /**
     * Makes sure that nothing is under way in an environment.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where something is
     */
    void requireIdle(String environment);
}
