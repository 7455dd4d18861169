package dev.nachlauf.service.run;

/** A run has ended; published in the transaction that ends it. */
public record RunEnded(long run) {}
