package dev.nachlauf.service.ledger;

import dev.nachlauf.core.run.Reject;
import java.util.List;

/** Where rejects become visible; the feature of rejects comes later and implements it. */
public interface RejectSink {
    /** Keeps rejects, in the transaction under way. */
    void add(long run, List<Reject> rejects);

    /**
     * Shows rejects of rows that a held run has not written yet, in place of those shown before; in the transaction under
     * way.
     */
    void foresee(long run, List<Reject> rejects);

    /**
     * Shows more of them, beside those that are shown already, up to a number that people can look through; in the
     * transaction under way.
     *
     * @return how many are shown now
     */
    long foreseeMore(long run, List<Reject> rejects);
}
