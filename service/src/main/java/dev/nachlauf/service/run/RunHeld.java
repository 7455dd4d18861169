package dev.nachlauf.service.run;

/** A run waits for a person; published in the transaction that holds it. */
public record RunHeld(long run) {}
