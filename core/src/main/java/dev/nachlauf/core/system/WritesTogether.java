package dev.nachlauf.core.system;

import dev.nachlauf.core.system.Target.Unit;

/** A target that can write records of further types in its units, so that rows of several types go together or not at all. */
public interface WritesTogether {
    /** A target over the same connection; it ends with this one and begins no units of its own. */
    Target beside(RecordDescription description, TargetUse use);

    /** Applies changes to the records of a target beside this one, in a unit of this one. */
    void apply(Unit unit, Target beside, ChangeSet changes, int[] which, Answers answers);
}
