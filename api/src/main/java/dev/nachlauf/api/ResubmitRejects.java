package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Sends rejected rows of a run again.
 *
 * @param ids only these rejects; null for all that are open
 */
public record ResubmitRejects(@Nullable List<Long> ids) {}
