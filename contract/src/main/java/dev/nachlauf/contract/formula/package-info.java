/**
 * Formulas beside PostgreSQL. {@code ExpressionGenerator} writes random expressions in both spellings; {@link
 * dev.nachlauf.contract.formula.Referee} evaluates each over the same rows in both and compares the answers; {@code
 * ListedDifference} says where the two may differ and why. Start at {@link dev.nachlauf.contract.formula.Referee}. Everything
 * is seeded, so a disagreement can be seen again.
 */
@NullMarked
package dev.nachlauf.contract.formula;

import org.jspecify.annotations.NullMarked;
