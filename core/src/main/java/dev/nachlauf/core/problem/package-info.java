/**
 * Findings: what is wrong, where, and what to do. Start at {@link dev.nachlauf.core.problem.Problem}. A finding is a
 * value that is collected; {@link dev.nachlauf.core.problem.CannotGoOn} carries one where work has to end. All codes
 * stand in {@link dev.nachlauf.core.problem.ProblemCode}, once, and are never reused. {@link
 * dev.nachlauf.core.problem.ProblemText} is the one renderer, with the caret under the place. Row values never stand
 * in a sentence that goes to a log.
 */
@NullMarked
package dev.nachlauf.core.problem;

import org.jspecify.annotations.NullMarked;
