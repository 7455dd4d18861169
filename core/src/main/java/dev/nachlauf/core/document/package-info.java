/**
 * Documents that people write in YAML 1.2, with the place of everything in them. Start at {@link
 * dev.nachlauf.core.document.Document#parse}; {@link dev.nachlauf.core.document.Section} reads one map of it, and
 * reports every key that nobody asked for. {@code YamlTraps} knows where YAML damages a formula that looks right to a
 * person. The room knows YAML and formulas' texts, not what a job or a connection is.
 */
@NullMarked
package dev.nachlauf.core.document;

import org.jspecify.annotations.NullMarked;
