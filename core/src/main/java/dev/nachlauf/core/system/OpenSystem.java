package dev.nachlauf.core.system;

import dev.nachlauf.core.problem.Problem;
import java.util.List;
import org.jspecify.annotations.Nullable;

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
     * @param canWrite null where only a delivery shows it
     * @param cautions what is unwise about it, as warnings
     */
    record Greeting(
            String system,
            String signedInAs,
            boolean canRead,
            @Nullable Boolean canWrite,
            List<Problem> cautions) {
        /** One that is wise. */
        public Greeting(String system, String signedInAs, boolean canRead, @Nullable Boolean canWrite) {
            this(system, signedInAs, canRead, canWrite, List.of());
        }
    }
}
