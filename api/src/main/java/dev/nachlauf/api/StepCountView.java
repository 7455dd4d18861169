package dev.nachlauf.api;

/** A step's part of the balance: {@code in + made = out + skipped + rejected + merged}. */
public record StepCountView(String step, long in, long made, long out, long skipped, long rejected, long merged) {}
