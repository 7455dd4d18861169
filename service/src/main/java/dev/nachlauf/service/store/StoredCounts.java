package dev.nachlauf.service.store;

import dev.nachlauf.core.load.Counts;

/** The names under which counts are kept. */
public record StoredCounts(
        long read,
        long skipped,
        long rejected,
        long inserted,
        long updated,
        long unchanged,
        long deleted,
        long issued,
        long refused,
        long warned) {
    /** Counts to be kept. */
    public static StoredCounts of(Counts counts) {
        return new StoredCounts(
                counts.read(),
                counts.skipped(),
                counts.rejected(),
                counts.inserted(),
                counts.updated(),
                counts.unchanged(),
                counts.deleted(),
                counts.issued(),
                counts.refused(),
                counts.warned());
    }

    /** The counts that were kept. */
    public Counts counts() {
        return new Counts(read, skipped, rejected, inserted, updated, unchanged, deleted, issued, refused, warned);
    }
}
