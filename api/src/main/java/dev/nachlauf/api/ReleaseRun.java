package dev.nachlauf.api;

/** Releases a held run. {@code beyondLimit} says that it goes on although a limit was crossed. */
public record ReleaseRun(boolean beyondLimit) {}
