package dev.nachlauf.api;

/**
 * A file that a run hands over.
 *
 * @param connection the place that it goes to
 * @param name its name there
 * @param rows how many rows it holds
 * @param size in bytes
 * @param hash its SHA-256 in hex
 * @param delivered whether it is there; a plan only says what it would be
 */
public record IssuedFileView(String connection, String name, long rows, long size, String hash, boolean delivered) {}
