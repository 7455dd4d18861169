/**
 * A target in memory: {@link dev.nachlauf.contract.memory.MemorySystem}. It is the shortest statement of what a target
 * does, and lets the engine be tested without a database.
 */
@NullMarked
package dev.nachlauf.contract.memory;

import org.jspecify.annotations.NullMarked;
