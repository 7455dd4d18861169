/**
 * Rows on their way through the steps. Start at {@link dev.nachlauf.core.step.Shaping}, which strings the steps together
 * as flows of {@link dev.nachlauf.core.step.FlowRow}: {@code ReadFlow} reads cells, {@code RowSteps} does what looks at
 * one row alone, {@code GroupFlow} with its {@code Treatments} what looks at rows that agree, and some steps have a flow
 * of their own. {@link dev.nachlauf.core.step.Mapper} turns what comes out into target rows. Nothing here knows files or
 * targets; lookups ask through {@link dev.nachlauf.core.step.RecordFinder}.
 */
@NullMarked
package dev.nachlauf.core.step;

import org.jspecify.annotations.NullMarked;
