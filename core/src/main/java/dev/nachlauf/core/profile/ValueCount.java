package dev.nachlauf.core.profile;

/** A value, or the shape of values, and in how many rows it stands. */
public record ValueCount(String value, long count) {}
