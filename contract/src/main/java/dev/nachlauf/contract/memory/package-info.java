/**
 * Targets in memory: {@link dev.nachlauf.contract.memory.MemorySystem} takes whole batches, {@link
 * dev.nachlauf.contract.memory.RecordSystem} takes record by record and can lose answers, lock and make wait. They are the
 * shortest statement of what a target does, and let the engine be tested without a database.
 */
@NullMarked
package dev.nachlauf.contract.memory;

import org.jspecify.annotations.NullMarked;
