package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * What equal corrections of rejected rows teach: an entry of a crosswalk, or a step of the job, that makes the same
 * correction from now on.
 *
 * @param column of the source
 * @param from what stood there
 * @param to what it was corrected to
 * @param fixed how many rows were corrected so
 * @param crosswalk the crosswalk that lacks an entry; null where a step is proposed
 * @param translation what {@code from} becomes with the entry; null where a step is proposed
 * @param step the step, as YAML; null where an entry is proposed
 * @param heals how many open rejects of the job have that value and no correction of it yet
 */
public record ProposalView(
        String job,
        String column,
        String from,
        String to,
        long fixed,
        @Nullable String crosswalk,
        @Nullable String translation,
        @Nullable String step,
        long heals) {}
