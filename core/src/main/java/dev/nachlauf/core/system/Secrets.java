package dev.nachlauf.core.system;

/** Resolves references of secrets. */
@FunctionalInterface
public interface Secrets {
    /**
     * The secret behind {@code env:NAME} or {@code file:PATH}.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn with {@code secret-missing} or {@code secret-unsafe}
     */
    String resolve(String reference);
}
