package dev.nachlauf.service.run;

import dev.nachlauf.core.source.MendedRows.Mended;
import java.util.Iterator;

/** The rejected rows that a run sends again; the feature of rejects implements it. */
public interface SentRows {
    /**
     * Gives the open rejects of a run to one that sends them again, in the transaction under way.
     *
     * @return how many there are
     */
    long give(long rejecting, long sending);

    /** The rows that a run sends again, in the order of the source. */
    Iterator<Mended> of(long sending);

    /** Whether the run reads the other rows of its source as well: a sum is a sum of all its rows. */
    boolean amongOthers(long sending);
}
