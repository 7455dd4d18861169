package dev.nachlauf.core.load;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What became of a row. The order is that of the balance bar and, as a number, part of the ledger's format. */
public enum Outcome {
    INSERTED,
    UPDATED,
    UNCHANGED,
    DELETED,
    ISSUED,
    SKIPPED,
    REJECTED;

    /** Whether something is there now that wasn't, so that all its fields are told. */
    public boolean isNew() {
        return this == INSERTED || this == ISSUED;
    }

    /** The word outside. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The outcome with this word. */
    public static Optional<Outcome> of(String word) {
        return Arrays.stream(values())
                .filter(outcome -> outcome.word().equals(word))
                .findFirst();
    }
}
