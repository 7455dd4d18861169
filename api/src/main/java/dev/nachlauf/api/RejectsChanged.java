package dev.nachlauf.api;

/** How many rejects a decision is about. */
public record RejectsChanged(long changed) {}
