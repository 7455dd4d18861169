/**
 * The interface to systems: what a connector implements. Start at {@link dev.nachlauf.core.system.SystemType}, which
 * the service loader finds. Abilities are interfaces of their own: {@link dev.nachlauf.core.system.HoldsFiles}, {@link
 * dev.nachlauf.core.system.HoldsRecords}, {@link dev.nachlauf.core.system.Writes}. Look, then do: describing reads no
 * records. {@link dev.nachlauf.core.system.Target} is how records are found, changed by a {@link
 * dev.nachlauf.core.system.ChangeSet}, and settled after a crash. File
 * formats stand beside systems: {@link dev.nachlauf.core.system.SourceFormat}. Nothing here knows jobs or runs.
 */
@NullMarked
package dev.nachlauf.core.system;

import org.jspecify.annotations.NullMarked;
