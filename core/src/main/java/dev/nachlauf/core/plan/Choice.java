package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.record.RowRanges;
import java.util.Optional;

/**
 * Which rows of the source a run is about; the others are skipped.
 *
 * @param rows their numbers in the source; empty for all
 * @param where a formula over the columns of the source that has to be true; empty for all
 * @param again whether the source gives only rows that an earlier run has rejected, so that it says nothing of the others
 */
public record Choice(Optional<RowRanges> rows, Optional<FormulaSource> where, boolean again) {
    /** All rows. */
    public static final Choice ALL = new Choice(Optional.empty(), Optional.empty());

    public Choice(Optional<RowRanges> rows, Optional<FormulaSource> where) {
        this(rows, where, false);
    }

    /** Whether rows may be left out. */
    public boolean isPart() {
        return rows.isPresent() || where.isPresent() || again;
    }
}
