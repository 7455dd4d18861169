package dev.nachlauf.core.plan;

/** What becomes of the other rows of a group when one of them is rejected. */
public enum Grouping {
    /** There are no groups: a row stands for itself. */
    NONE,
    /** They are rejected as well. */
    TOGETHER,
    /** They go on, unless the rejected row is what the group's header is written from and that is rejected. */
    LINES_ALONE
}
