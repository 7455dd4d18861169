package dev.nachlauf.api;

/** A kept file: SHA-256 of its content in hex, size in bytes. */
public record FileView(String hash, String name, long size) {}
