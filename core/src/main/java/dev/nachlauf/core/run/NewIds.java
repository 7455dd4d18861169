package dev.nachlauf.core.run;

import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Target;

/** Where the ids of new records come from while a batch is planned. */
@FunctionalInterface
interface NewIds {
    /** The target gives them before it writes, where it can. */
    NewIds RESERVED = (target, changes, inserts) -> {
        if (target instanceof ReservesIds reserves) {
            reserves.reserve(changes, inserts);
        }
    };

    /** Gives ids to new records; none where they get theirs when they are written. */
    void give(Target target, ChangeSet changes, int[] inserts);
}
