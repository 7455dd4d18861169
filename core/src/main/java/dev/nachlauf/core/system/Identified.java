package dev.nachlauf.core.system;

/** A target that can tell whether it is still the one that was written to. */
public interface Identified {
    /**
     * What the system is. Changes when it is another one, or when it was restored from a backup or replaced by a copy of
     * itself, so that what was committed may be missing; stays the same over restarts and crashes.
     */
    String identity();
}
