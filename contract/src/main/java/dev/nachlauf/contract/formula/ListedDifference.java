package dev.nachlauf.contract.formula;

/** Where formulas and PostgreSQL may differ, each with its reason. Every other disagreement is a failure. */
enum ListedDifference {
    STOPS_EARLY("and, or, case, coalesce, in and between stop when the result is known; PostgreSQL may compute constant"
            + " parts beforehand and both sides of the rest, so that only one of the two meets an error"),
    OUR_BOUNDS("texts of more than 1,000,000 characters, decimals of more than 2,000 digits, and years outside of 1 to"
            + " 9999 are errors here");

    private final String reason;

    ListedDifference(String reason) {
        this.reason = reason;
    }

    String reason() {
        return reason;
    }
}
