/**
 * What is kept, and until when. {@link dev.nachlauf.service.retention.Retention} removes, hour by hour, what nothing
 * needs any more: bytes of files, lines of ledgers, scratch space of processes that were killed. Held runs, runs with
 * open rejects and runs with rows in doubt keep all that is theirs; the sums of a run stay for ever.
 */
@NullMarked
package dev.nachlauf.service.retention;

import org.jspecify.annotations.NullMarked;
