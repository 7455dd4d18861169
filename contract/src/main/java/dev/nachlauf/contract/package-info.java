/**
 * What every connector has to pass. Start at {@link dev.nachlauf.contract.target.TargetContract}. The targets in {@code
 * memory} pass it first, one of each kind; {@code mariadb} starts a private server for tests, {@code formula} compares
 * formulas with PostgreSQL. Used by tests only; nothing that ships knows this module.
 */
@NullMarked
package dev.nachlauf.contract;

import org.jspecify.annotations.NullMarked;
