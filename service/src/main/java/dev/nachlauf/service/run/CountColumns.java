package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Counts;
import jakarta.persistence.Embeddable;

/** The columns of counts, wherever they stand. */
@Embeddable
public class CountColumns {
    long read;
    long skipped;
    long rejected;
    long inserted;
    long updated;
    long unchanged;
    long deleted;
    long issued;
    long refused;
    long warned;

    /** For Hibernate. */
    protected CountColumns() {}

    public CountColumns(Counts counts) {
        read = counts.read();
        skipped = counts.skipped();
        rejected = counts.rejected();
        inserted = counts.inserted();
        updated = counts.updated();
        unchanged = counts.unchanged();
        deleted = counts.deleted();
        issued = counts.issued();
        refused = counts.refused();
        warned = counts.warned();
    }

    /** As a value. */
    public Counts counts() {
        return new Counts(read, skipped, rejected, inserted, updated, unchanged, deleted, issued, refused, warned);
    }
}
