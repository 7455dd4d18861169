package dev.nachlauf.core.system;

/** A system at which sessions of another process can be ended, so that they hold no locks any longer. */
public interface EndsSessions {
    /** Ends a session; one that is over, or belongs to somebody else by now, is left alone. */
    void end(String session);
}
