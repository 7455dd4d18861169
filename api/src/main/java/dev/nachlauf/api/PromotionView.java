package dev.nachlauf.api;

import java.time.Instant;

/**
 * A version of a job was made the one that runs in a live environment.
 *
 * @param inForce whether it still is
 * @param note what changed and why, as whoever promoted it said
 */
public record PromotionView(
        String environment, int version, boolean inForce, String note, Instant promotedAt, String promotedBy) {}
