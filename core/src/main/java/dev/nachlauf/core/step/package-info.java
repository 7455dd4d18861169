/**
 * A row on its way through the steps. {@link dev.nachlauf.core.step.RowTransform} reads the cells, runs the steps, maps
 * and checks, and says for every row whether it is skipped, rejected with all its problems, or passed on with target
 * values; {@link dev.nachlauf.core.step.KeyTransform} does the part of it that the key needs. Nothing here knows files,
 * targets or other rows.
 */
@NullMarked
package dev.nachlauf.core.step;

import org.jspecify.annotations.NullMarked;
