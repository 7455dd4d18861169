package dev.nachlauf.connectors.database.postgresql;

/** What speaks against the quickest way of writing to a table. */
enum Caution {
    /** Code of the database changes or swallows records before they are written. */
    BEFORE_TRIGGERS,
    /** Code of the database runs after records are written. */
    AFTER_TRIGGERS,
    REWRITE_RULES,
    ROW_SECURITY,
    /** Records of the table refer to others of it. */
    SELF_REFERENCE,
    /** Records show no version: those of a view, or of another server. */
    NO_VERSIONS
}
