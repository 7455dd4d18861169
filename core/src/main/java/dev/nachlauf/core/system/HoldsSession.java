package dev.nachlauf.core.system;

/** A target that works through a session at its system, which may outlive the process that opened it. */
public interface HoldsSession {
    /** Names the session for {@link EndsSessions}. */
    String session();
}
