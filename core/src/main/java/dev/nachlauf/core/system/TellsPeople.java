package dev.nachlauf.core.system;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** A way to tell people, or programs of theirs, what has happened. */
public interface TellsPeople extends OpenSystem {
    /**
     * Tells it once.
     *
     * @return what the receiver has answered, for the record
     * @throws dev.nachlauf.core.problem.CannotGoOn temporary where trying again can help; with {@code message-refused}
     *     where the receiver won't have it
     */
    String tell(Message message);

    /**
     * What speaks against telling these receivers; empty where nothing does.
     *
     * @param receivers as a job names them; empty where it leaves that to the connection
     */
    Optional<String> unfit(List<String> receivers);

    /**
     * What is told.
     *
     * @param id the same whenever the same is told again, so that a receiver can tell what it has already
     * @param title one line
     * @param text for people, in lines
     * @param facts the same for programs, as JSON
     * @param receivers as the job names them; empty where it leaves that to the connection
     */
    record Message(String id, Instant at, String title, String text, String facts, List<String> receivers) {}
}
