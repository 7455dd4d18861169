package dev.nachlauf.core.job;

/**
 * Results that are put beside the file that was read.
 *
 * @param name without its ending, which is that of the file; may hold <code>${file}</code>, the name of the file without
 *     its ending, and <code>${run}</code>
 * @param columns what stands beside the rows; empty for the usual
 * @param replaces whether a file that has the name already is replaced
 */
public record PutBack(Placed<String> name, String columns, boolean replaces) {}
