package dev.nachlauf.core.system;

/** A target at which units can be tried: they meet the rules of the system itself, and nothing of them is kept. */
public interface Rehearses {
    /**
     * From now on nothing lasts: what a unit has committed is found by later ones, and all of it is undone when the target
     * is closed. To be called before the first unit. Ids that are given meanwhile may be lost.
     */
    void rehearse();
}
