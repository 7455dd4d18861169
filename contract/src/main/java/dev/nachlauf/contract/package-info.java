/**
 * What every connector has to pass. Start at {@link dev.nachlauf.contract.TargetContract}: extend it, say how to open
 * the target, and its tests run. The in-memory target in {@code memory} passes them first; {@code postgresql} starts a
 * private cluster for tests. Used by tests only; nothing that ships knows this module.
 */
@NullMarked
package dev.nachlauf.contract;

import org.jspecify.annotations.NullMarked;
