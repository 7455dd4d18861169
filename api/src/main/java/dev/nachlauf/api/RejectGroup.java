package dev.nachlauf.api;

/** Rejects of a run with the same reason. {@code field} is empty where the reason concerns no single field. */
public record RejectGroup(String code, String field, long count) {}
