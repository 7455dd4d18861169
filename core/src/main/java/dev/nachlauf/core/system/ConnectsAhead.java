package dev.nachlauf.core.system;

/** A system to which it takes a while to connect, which can be done before anything is asked of it. */
public interface ConnectsAhead {
    /**
     * Connects, unless that is done; what is asked then is answered over that connection.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn with the reason where it can't be reached
     */
    void connect();
}
