/**
 * Definition and descriptions to a plan: everything about a job that can be checked before a row is read is checked
 * here. Start at {@link dev.nachlauf.core.plan.Planner}; what comes out is an immutable {@link
 * dev.nachlauf.core.plan.Plan}. Names of source fields, kinds of formulas and the demands of the target meet here, and
 * every finding points into the job file.
 */
@NullMarked
package dev.nachlauf.core.plan;

import org.jspecify.annotations.NullMarked;
