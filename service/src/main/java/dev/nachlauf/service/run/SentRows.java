package dev.nachlauf.service.run;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.source.MendedRows.Mended;
import java.util.Iterator;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** The rejected rows that a run sends again; the feature of rejects implements it. */
public interface SentRows {
    /**
     * Gives the open rejects of a run to one that sends them again, in the transaction under way.
     *
     * @param ids only these; null for all
     * @return how many there are
     * @throws dev.nachlauf.core.problem.CannotGoOn where one of them is not open, or not of the run
     */
    long give(long rejecting, @Nullable List<Long> ids, long sending);

    /**
     * Reads a workbook of rejects that somebody has mended.
     *
     * @return keeps what it says as corrections, in the transaction under way, and names the rejects in it that are open
     * @throws dev.nachlauf.core.problem.CannotGoOn at once or later, where it doesn't fit the rejects
     */
    Supplier<List<Long>> mended(FileView file, long rejecting, String by);

    /** The rows that a run sends again, or has sent, in the order of the source. */
    Iterator<Mended> of(long sending);

    /** Whether the run reads the other rows of its source as well: a sum is a sum of all its rows. */
    boolean amongOthers(long sending);
}
