package dev.nachlauf.service.run;

/** The two stages of a ledger; a released run has both. */
public enum LedgerStage {
    PLANNED,
    WRITTEN;

    /** The number that is kept. */
    public short number() {
        return (short) ordinal();
    }
}
