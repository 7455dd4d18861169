package dev.nachlauf.core.system;

/** An opened system. Closing twice is harmless. */
public interface OpenSystem extends AutoCloseable {
    /**
     * Reaches the system and says as whom.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn with the reason where it can't be reached
     */
    Greeting greet();

    @Override
    void close();

    /**
     * What a system answers when it is reached.
     *
     * @param system what it is, with its version where it tells
     * @param signedInAs the account; empty where there is none
     */
    record Greeting(String system, String signedInAs, boolean canRead, boolean canWrite) {}
}
